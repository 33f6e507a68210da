import { Key } from "../parts/Key";
import { ACTIONS, type ActionId, printed } from "./actions";

/** The key of an action, drawn as the table of actions has it: a key that is drawn works. */
export function ActionKey({ of, plain = false }: { of: ActionId; plain?: boolean }) {
  return <Key plain={plain}>{printed(ACTIONS[of].keys[0])}</Key>;
}
