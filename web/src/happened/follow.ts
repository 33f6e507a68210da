/** A run that is followed on this device: what is kept of it, what it looks like by that, what the server and other screens say. */
import { get, passes, Refusal } from "../api/client";
import type { Fault, Offers, RunSheet, RunView } from "../api/types";
import { setBackBy } from "./clocks";
import type { RunState, Turn } from "./events";
import { blockUntilMs } from "./hot";
import {
  forgetRun,
  type KeptEvent,
  keepAgain,
  keepPressed,
  keepSheet,
  keptDevice,
  keptRun,
  type Saying,
} from "./keep";
import { runState } from "./state";
import { exchange, PAGES, waitAfter } from "./tell";
import { turnAt, viewOf, wordsAt } from "./view";

const LOOK_MS = 1_000;
const LOOK_HIDDEN_MS = 10_000;

/** A run as it stands here and now. */
export type RunHere = {
  view: RunView;
  turn: Turn;
  /** The work of a heat without joins, of which it is asked how it came out; null where it has none. */
  work: string | null;
  /** The words that the step at hand can have. */
  words: RunView["words"];
  /** What all that is cut and the solder weigh, g; null where that is not known. */
  weighs: number | null;
  /** Until when what the last heat lay on is too hot to touch, ms; null where no heat was done. */
  blockUntilMs: number | null;
  /** When, by this device's clock, it was the moment that the view calls now. */
  asOf: number;
  /** How many presses the server does not have yet. */
  unsent: number;
  /** Whether the server does not answer. */
  away: boolean;
  /** Whether what was pressed here last was set aside, because another screen had gone on before. */
  overtaken: boolean;
  /** Why the last thing asked was refused, if it was. */
  fault: unknown;
};

export class Following {
  /** How the run stands, and why nothing can be told of it where that is so; a new one with every change. */
  seen: { here: RunHere | null; trouble: unknown } = { here: null, trouble: null };

  private here: RunHere | null = null;
  private trouble: unknown = null;
  private readonly listeners = new Set<() => void>();
  private readonly channel = new BroadcastChannel(PAGES);
  private sheet: RunSheet | null = null;
  private events: KeptEvent[] = [];
  private device = "";
  private aheadMs = 0;
  private away = false;
  private fault: unknown = null;
  private failed = 0;
  /** Whether something is to be sent now, and not with the next look. */
  private more = false;
  private closed = false;
  private wake: (() => void) | null = null;

  constructor(
    readonly run: number,
    /** Told when the server knows more than before. */
    private readonly onTold: () => void = () => {},
  ) {
    this.channel.onmessage = ({ data }) => {
      if (data === run) this.reload().catch(this.broke);
    };
    this.keepUp().catch(this.broke);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Write down what is pressed: it is kept on this device before it counts. */
  async press(...said: Saying[]): Promise<void> {
    this.aheadMs += setBackBy();
    const atMs = Date.now();
    try {
      for (const says of said) {
        const kept = await keepPressed(this.run, says, { atMs, aheadMs: this.aheadMs });
        // What is kept may have been read anew meanwhile, and this with it: as it stands by now.
        if (!this.events.some(({ id }) => id === kept.id)) this.events = [...this.events, kept];
      }
      this.fault = null;
    } catch (problem) {
      this.fault = new Refusal([notKept(problem)]);
    }
    this.tell();
    this.tellOthers();
    this.more = true;
    this.wake?.();
  }

  /** Know the steps that may be put in where something went wrong, before a press names them. */
  async know({ steps, faces }: Pick<Offers, "steps" | "faces">): Promise<void> {
    if (!this.sheet) return;
    const planned = this.sheet.faces.filter((face) => !face.extra).length;
    await keepSheet({
      ...this.sheet,
      steps: [...this.sheet.steps.slice(0, planned), ...steps],
      faces: [...this.sheet.faces.slice(0, planned), ...faces],
    });
    await this.reload();
  }

  /** Fetch the sheet anew where another screen put steps in that this one does not know. */
  private async fetchPutIn(): Promise<void> {
    const kept = await keptRun(this.run);
    const known = kept?.sheet.faces.length ?? 0;
    const named =
      kept?.events.flatMap(({ event }) => (event.kind === "again" ? (event.steps ?? []) : [])) ?? [];
    if (named.some((step) => step > known))
      await keepSheet(await get("/api/runs/{key}/sheet", { params: { path: { key: this.run } } }));
  }

  /** What could not be told of the run is said, in place of a page that opens for ever. */
  private readonly broke = (problem: unknown): void => {
    this.trouble = problem;
    this.seen = { here: null, trouble: problem };
    for (const listener of this.listeners) listener();
  };

  close(): void {
    this.closed = true;
    this.channel.close();
    this.wake?.();
    const done = this.here && this.here.view.state !== "going" && this.here.unsent === 0;
    if (done) void forgetRun(this.run);
  }

  /** Begin with what is kept, and exchange with the server for as long as the run is followed. */
  private async keepUp(): Promise<void> {
    try {
      const { id, aheadMs } = await keptDevice();
      this.device = id;
      this.aheadMs = aheadMs;
      await this.reload();
    } catch (problem) {
      this.trouble = new Refusal([notKept(problem)]);
      this.tell();
      return;
    }
    let known = false;
    while (!this.closed) {
      this.more = false;
      known = known ? await this.exchange() : await this.fetchSheet();
      if (!this.closed && (!known || this.failed > 0 || !this.more)) await this.rest();
    }
  }

  /** Ask for the sheet: of a run that was never opened here, or of another one with this number. */
  private async fetchSheet(): Promise<boolean> {
    try {
      await keepSheet(await get("/api/runs/{key}/sheet", { params: { path: { key: this.run } } }));
      this.trouble = null;
      // Without what happened it would be shown at its first step: it is not shown before that is known.
      await this.exchange();
      if (!this.away) await this.reload();
      return !this.away;
    } catch (problem) {
      this.failed += 1;
      this.away = passes(problem);
      // A run that is kept here goes on without the server; one that is not waits for it.
      if (!this.sheet || !this.away) this.trouble = problem;
      this.tell();
      return false;
    }
  }

  private async exchange(): Promise<true> {
    const ended = await exchange(this.run, this.aheadMs);
    this.away = ended === "away";
    this.failed = ended === "away" ? this.failed + 1 : 0;
    if (ended !== "away") {
      if ("refused" in ended) {
        this.fault = ended.refused;
        await this.reload();
      } else {
        const moved = this.aheadMs !== ended.aheadMs;
        this.aheadMs = ended.aheadMs;
        if (!ended.all) this.more = true;
        if (ended.news || this.unsent() > 0) {
          await this.fetchPutIn();
          await this.reload();
          this.tellOthers();
          this.onTold();
        } else if (moved || this.here?.away) this.tell();
      }
    } else this.tell();
    return true;
  }

  /** Wait for the next look at the server; a press, a return to the page or to the network ends it. */
  private async rest(): Promise<void> {
    const look = document.visibilityState === "visible" ? LOOK_MS : LOOK_HIDDEN_MS;
    const ms = this.failed > 0 ? waitAfter(this.failed - 1) : look;
    await new Promise<void>((resolve) => {
      const done = () => {
        clearTimeout(timer);
        document.removeEventListener("visibilitychange", done);
        removeEventListener("online", done);
        this.wake = null;
        resolve();
      };
      const timer = setTimeout(done, ms);
      document.addEventListener("visibilitychange", done);
      addEventListener("online", done);
      this.wake = done;
    });
  }

  private async reload(): Promise<void> {
    const kept = await keptRun(this.run);
    if (this.closed) return;
    // What is followed and kept no more, as where a user clears what sites keep, is kept again from here.
    if (!kept && this.sheet && this.unsent() > 0) {
      await keepAgain(this.sheet, this.events);
      this.device = (await keptDevice()).id;
      this.more = true;
      return;
    }
    this.sheet = kept?.sheet ?? null;
    this.events = kept?.events ?? [];
    this.tell();
  }

  /** Let other pages of this browser look anew at what is kept. */
  private tellOthers(): void {
    if (!this.closed) this.channel.postMessage(this.run);
  }

  private unsent(): number {
    return this.events.filter(({ sent }) => sent === "unsent").length;
  }

  private tell(): void {
    if (this.closed) return;
    if (this.sheet) {
      const asOf = Date.now();
      const counted = this.events.filter(({ sent }) => sent !== "refused").map(({ event }) => event);
      const state = runState(this.sheet.faces, this.sheet.began_ms, counted);
      const turn = turnAt(state);
      const face = this.sheet.faces[turn.step - 1];
      this.here = {
        view: viewOf(this.sheet, state, asOf + this.aheadMs),
        turn,
        work: (face?.kind === "heat" && face.work) || null,
        words: wordsAt(this.sheet, turn),
        weighs: this.sheet.weighs_g ?? null,
        blockUntilMs: blockUntilMs(this.sheet, state),
        asOf,
        unsent: this.unsent(),
        away: this.away,
        overtaken: this.overtaken(state),
        fault: this.fault,
      };
    }
    this.seen = { here: this.here, trouble: this.trouble };
    for (const listener of this.listeners) listener();
  }

  private overtaken(state: RunState): boolean {
    const mine = this.events.filter(({ event }) => event.device === this.device);
    const last = mine.reduce<KeptEvent | null>((a, b) => (a && a.event.seq > b.event.seq ? a : b), null);
    return state.aside.some(({ event, other }) => other && event === last?.id);
  }
}

function notKept(problem: unknown): Fault {
  return {
    code: "not-kept",
    path: "",
    value: problem instanceof Error ? problem.message : String(problem),
    rule: "what is pressed is kept on this device before it counts, and this browser did not keep it",
    remedy: "Open Eskel in an ordinary window, not a private one; free some room if the device is full",
  };
}
