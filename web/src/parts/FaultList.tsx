import { Refusal, sayFault } from "../api/client";

/** What was wrong, in words; nothing when nothing was. */
export function FaultList({ error }: { error: unknown }) {
  if (!error) return null;
  const lines = error instanceof Refusal ? error.faults.map(sayFault) : [String(error)];
  return (
    <div role="alert" className="border-l-2 border-alarm py-1 pl-3 text-[15px] text-alarm">
      {lines.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
