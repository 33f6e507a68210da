/** A finding on the shelf, small, and how many of it are left. */
import type { FindingView } from "../api/types";
import { PictureView } from "./PictureView";

export const sayLeft = ({ left, picture }: FindingView): string =>
  picture === null ? "cannot be read any more" : left === 0 ? "none left" : `${String(left)} left`;

export function Small({ finding }: { finding: FindingView }) {
  return (
    <span className="h-12 w-20 shrink-0" aria-hidden>
      {finding.picture && <PictureView picture={finding.picture} size={[80, 48]} plain />}
    </span>
  );
}
