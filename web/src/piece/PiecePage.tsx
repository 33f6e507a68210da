import { useQueryClient } from "@tanstack/react-query";
import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useEffect, useMemo, useRef, useState } from "react";
import { startRun, usePiece, useWholePlan } from "../api/queries";
import type { PieceView, Plan } from "../api/types";
import { rememberPiece } from "../document/lastPiece";
import { FoundDraft, SaveState } from "../document/SaveState";
import { type Edits, useEdits } from "../document/useEdits";
import type { Selection } from "../drawing/PictureView";
import { Ladder } from "../ladder/Ladder";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Tip } from "../parts/Tip";
import { OwnUnits } from "../parts/useUnits";
import { counted } from "../parts/words";
import { RehearsalBand } from "../rehearsal/RehearsalBand";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { ChangesBar } from "./ChangesBar";
import { CutList } from "./CutList";
import { HousePocket } from "./HousePocket";
import { PartsAndJoins } from "./PartsAndJoins";
import { Stops } from "./Stops";

const BANDS = ["Parts and joins", "Heat ladder", "Rehearsal", "Cut and solder list"] as const;
const BAND = "min-h-[calc(100dvh-11rem)] py-4";
const BAND_KEYS = ["piece.parts", "piece.ladder", "piece.rehearsal", "piece.steps"] as const;

/** Whether the smith asked for no motion. */
const calm = () => window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** A piece: one page with its bands; number keys jump between them. */
export function PiecePage() {
  const { piece } = useParams({ from: "/work/$piece" });
  const asked = usePiece(Number(piece));
  const edits = useEdits(Number(piece));
  useEffect(() => rememberPiece(Number(piece)), [piece]);
  if (asked.error) {
    return (
      <div className="p-8">
        <FaultList error={asked.error} />
      </div>
    );
  }
  return asked.data ? (
    <OwnUnits value={asked.data.house}>
      <Opened view={asked.data} edits={edits} />
    </OwnUnits>
  ) : (
    <p className="p-8 text-quiet">Opening…</p>
  );
}

function Opened({ view: told, edits }: { view: PieceView; edits: Edits }) {
  const plan = told.plan;
  const view = useMemo(() => ({ ...told, plan }), [told, plan]);
  const proving = useProof(told);
  const asked = useAsked();
  const [selected, setSelected] = useState<Selection>(asked);
  useEffect(() => {
    if (asked) setSelected(asked);
  }, [asked]);
  const { band, jump, hold } = useBands();
  useKeys({
    "piece.parts": () => jump(0),
    "piece.ladder": () => jump(1),
    "piece.rehearsal": () => jump(2),
    "piece.steps": () => jump(3),
    // A change that is still being saved can be undone as well: its turn comes after it.
    "edit.undo": view.undo_what || edits.saving ? edits.undo : undefined,
    "edit.redo": view.redo_what ? edits.redo : undefined,
  });
  return (
    <div data-banded className="px-7">
      <div className="sticky top-0 z-10 border-b border-hair bg-ground pt-3">
        <Header view={view} edits={edits} proving={proving} />
        <BandTabs band={band} onJump={jump} />
        <ChangesBar plan={view.plan} />
        <FaultList error={edits.error} />
        <FoundDraft edits={edits} />
      </div>
      <section ref={hold(0)} aria-label={BANDS[0]} className="py-4">
        <PartsAndJoins view={view} edits={edits} selected={selected} onSelect={setSelected} />
      </section>
      <section ref={hold(1)} aria-label={BANDS[1]} className={BAND}>
        <Ladder
          view={view}
          selected={selected}
          onSelect={setSelected}
          onRemedy={(remedy) => edits.apply(remedy.words.toLowerCase(), remedy.change)}
          onChange={edits.apply}
        />
      </section>
      <section ref={hold(2)} aria-label={BANDS[2]} className={BAND}>
        <RehearsalBand view={view} />
      </section>
      <section ref={hold(3)} aria-label={BANDS[3]} className={BAND}>
        <CutList view={view} edits={edits} />
      </section>
    </div>
  );
}

/** What of the piece was asked for by the address. */
function useAsked(): Selection {
  const { part, join, work } = useSearch({ from: "/work/$piece" });
  return useMemo(() => {
    if (part) return { kind: "part", id: part };
    if (join) return { kind: "join", id: join };
    return work ? { kind: "work", id: work } : null;
  }, [part, join, work]);
}

/** The bands of the page: which of them is in view, a jump to another, and where each stands. */
function useBands() {
  const bands = useRef<(HTMLElement | null)[]>([]);
  const [band, setBand] = useState(0);
  const jump = (to: number) =>
    bands.current[to]?.scrollIntoView({ behavior: calm() ? "auto" : "smooth", block: "start" });
  useEffect(() => {
    const here = new Set<Element>();
    const seen = new IntersectionObserver(
      (entries) => {
        for (const entry of entries)
          if (entry.isIntersecting) here.add(entry.target);
          else here.delete(entry.target);
        const shown = bands.current.findLastIndex((one) => one !== null && here.has(one));
        if (shown >= 0) setBand(shown);
      },
      { rootMargin: "-35% 0px -60% 0px" },
    );
    for (const one of bands.current) if (one) seen.observe(one);
    return () => seen.disconnect();
  }, []);
  const hold = (at: number) => (element: HTMLElement | null) => {
    bands.current[at] = element;
  };
  return { band, jump, hold };
}

function BandTabs({ band, onJump }: { band: number; onJump: (to: number) => void }) {
  return (
    <nav aria-label="Bands" className="mt-1 flex gap-7">
      {BANDS.map((name, at) => (
        <button
          key={name}
          type="button"
          onClick={() => onJump(at)}
          aria-current={band === at ? "true" : undefined}
          className={`flex items-center gap-2 border-b-2 py-2.5 text-[16px] ${band === at ? "border-accent font-semibold" : "border-transparent text-quiet hover:text-ink"}`}
        >
          <ActionKey of={BAND_KEYS[at] ?? "piece.parts"} />
          {name}
        </button>
      ))}
    </nav>
  );
}

/** Of many joins, a plan is shown at once and put in its place when it is proven; says whether that is under way. */
function useProof(told: PieceView): boolean {
  const cache = useQueryClient();
  const whole = useWholePlan(told);
  useEffect(() => {
    if (whole.data)
      cache.setQueryData<PieceView>(["piece", told.id], (now) =>
        now && now.revision === whole.data.revision ? { ...now, plan: whole.data.plan } : now,
      );
  }, [cache, told.id, whole.data]);
  return whole.isFetching;
}

function Header({ view, edits, proving }: { view: PieceView; edits: Edits; proving: boolean }) {
  const go = useNavigate();
  const cache = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const [asking, setAsking] = useState(false);
  const { stops } = view.plan;
  const start = async () => {
    setAsking(false);
    try {
      const run = await startRun(view.id, stops);
      cache.setQueryData(["run", run.id], run);
      void cache.invalidateQueries({ queryKey: ["rail"] });
      await go({ to: "/run/$run", params: { run: String(run.id) } });
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <header>
      <div className="flex items-center gap-2">
        <PieceName name={view.document.name} edits={edits} />
        <p className="line-clamp-2 min-w-0 flex-1 text-right text-[15px] leading-tight text-quiet">
          {edits.away ? "" : factsOf(view, proving)}
        </p>
        <SaveState edits={edits} />
        <HousePocket view={view} edits={edits} />
        <Tip words={view.undo_what ? `Undo: ${view.undo_what}` : ""}>
          <Button
            look="bare"
            className="!px-2.5"
            disabled={!view.undo_what && !edits.saving}
            onClick={edits.undo}
          >
            Undo
          </Button>
        </Tip>
        <Tip words={view.redo_what ? `Again: ${view.redo_what}` : ""}>
          <Button look="bare" className="!px-2.5" disabled={!view.redo_what} onClick={edits.redo}>
            Redo
          </Button>
        </Tip>
        <a
          href={`/api/pieces/${String(view.id)}/file`}
          download
          className="inline-flex min-h-10 items-center rounded-md px-3 text-[15px] font-medium text-quiet hover:bg-sunk hover:text-ink"
        >
          File
        </a>
        <Button
          look="main"
          disabled={view.plan.steps.length === 0 || edits.saving}
          onClick={() => (stops.length > 0 ? setAsking(true) : void start())}
        >
          Start a run
        </Button>
      </div>
      {asking && <Stops stops={stops} onYes={() => void start()} onClose={() => setAsking(false)} />}
      <FaultList error={error} />
    </header>
  );
}

/** The name of the piece, changed in place. */
function PieceName({ name: known, edits }: { name: string; edits: Edits }) {
  const [name, setName] = useState(known);
  useEffect(() => setName(known), [known]);
  const rename = () => {
    const wanted = name.trim();
    if (wanted && wanted !== known) edits.apply("renamed", (now) => ({ ...now, name: wanted }));
    else setName(known);
  };
  return (
    <input
      aria-label="Name of the piece"
      className="max-w-[26rem] min-w-40 shrink-0 rounded border border-transparent bg-transparent px-1 -ml-1 text-[24px] font-bold hover:border-hair"
      // As wide as the name, so that nothing of it is cut off while there is room.
      style={{ width: `${String(name.length + 2)}ch` }}
      value={name}
      maxLength={120}
      onChange={(event) => setName(event.target.value)}
      onBlur={rename}
      onKeyDown={(event) => event.key === "Enter" && rename()}
    />
  );
}

/** What is proven of the number of heats and pots, and of nothing else. */
function provenOf({ objectives }: Plan): string {
  const counts = objectives.filter(({ name }) => name === "heats" || name === "rounds");
  return counts.every(({ value, bound }) => value === bound) ? "none fewer" : "fewer may be possible";
}

function factsOf(view: PieceView, proving: boolean): string {
  const { document, plan } = view;
  const heats = plan.steps.filter((step) => step.kind === "heat").length;
  const minutes = Math.round(plan.steps.reduce((sum, step) => sum + step.minutes, 0));
  // What matters most stands first: in a narrow window the end is cut off.
  const facts: string[] = plan.stops.length > 0 ? [`${counted(plan.stops.length, "rule")} against it`] : [];
  const rounds = new Set(plan.steps.flatMap((step) => (step.kind === "heat" ? [step.round] : []))).size;
  if (plan.status === "impossible") facts.push("no plan is possible");
  else if (heats > 0) {
    const pots = rounds < heats ? `, ${counted(rounds, "pot")}` : "";
    facts.push(`${counted(heats, "heat")}${pots}: ${proving ? "fewer are looked for" : provenOf(plan)}`);
  }
  if (plan.status !== "impossible" && heats > 0) facts.push(`about ${String(minutes)} min`);
  facts.push(counted(document.parts.length, "part"), counted(document.joins.length, "join"));
  // A fact is not broken in two where they take two lines.
  return facts.map((fact) => fact.replace(/ /g, "\u00a0")).join("\u00a0· ");
}
