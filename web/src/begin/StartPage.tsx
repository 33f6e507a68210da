import { Link, useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { type FormEvent, useEffect, useMemo, useRef, useState } from "react";
import { beginFromStart, useBench, useStarts, useStartTyped, useTables } from "../api/queries";
import type { AskInfo, Fault, Miniature, StartTyped, StartView } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { viewsOf } from "../drawing/views";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { boxed, Choice, Field, Tick } from "../parts/Field";
import type { Units } from "../parts/units";
import { sayMeasure } from "./find";
import { Ladderlet } from "./Ladderlet";

type Typed = Record<string, string | boolean>;

/** One start: its few measures at the left, and at the right the piece that they make, while they are typed. */
export function StartPage() {
  const { start: name } = useParams({ from: "/begin/$start" });
  const given = useSearch({ from: "/begin/$start" });
  const starts = useStarts();
  const house = useBench().data?.house;
  const start = starts.data?.find((one) => one.info.name === name);
  if (starts.isSuccess && !start)
    return (
      <div className="p-8">
        <p className="text-lg">There is no start of that name.</p>
        <Link to="/begin" className="mt-2 inline-block text-accent underline">
          See all of them
        </Link>
      </div>
    );
  if (!start || !house) return <p className="p-8 text-quiet">Opening…</p>;
  return <Opened key={name} start={start} given={given} units={house} />;
}

type OpenedProps = { start: StartView; given: Typed; units: Units };

function Opened({ start, given, units }: OpenedProps) {
  const { info } = start;
  const [typed, setTyped] = useState<Typed>(given);
  const [error, setError] = useState<unknown>(null);
  const [making, setMaking] = useState(false);
  const form = useRef<HTMLFormElement>(null);
  const go = useNavigate();
  useEffect(() => form.current?.querySelector<HTMLElement>("input:not([type=checkbox])")?.focus(), []);
  const sent = useMemo(() => ({ ...info.example, ...sentOf(typed) }), [info.example, typed]);
  const drawn = useStartTyped(info.name, sent, false);
  const told = drawn.data;
  // The drawing first: beside each other on one machine both would be later.
  const planned = useStartTyped(info.name, sent, true, !drawn.isFetching);
  const faults = told?.faults ?? [];
  // While something is wrong the piece that could be made last stays in sight.
  const lasting = useLasting(told);
  const plan = useLastingPlan(planned.data);
  const make = async (event: FormEvent) => {
    event.preventDefault();
    setMaking(true);
    try {
      const made = await beginFromStart(info.name, sent);
      await go({ to: "/work/$piece", params: { piece: String(made.id) } });
    } catch (problem) {
      setError(problem);
      setMaking(false);
    }
  };
  const elsewhere = faults.filter((fault) => !info.asks.some((one) => one.key === fault.path));
  return (
    <form ref={form} className="px-7 py-5" onSubmit={(event) => void make(event)}>
      <Head start={start} ready={!making && faults.length === 0} />
      <FaultList error={error} />
      <div className="mt-4 grid grid-cols-[300px_minmax(0,1fr)] gap-8">
        <div className="flex flex-col gap-2.5">
          {info.asks.map((ask) => (
            <Ask
              key={ask.key}
              ask={ask}
              units={units}
              typed={typed[ask.key]}
              stands={lasting?.asked?.[ask.key] ?? info.example[ask.key] ?? ask.default}
              understood={told?.understood?.[ask.key]}
              fault={faults.find((fault) => fault.path === ask.key)}
              onType={(value) => setTyped({ ...typed, [ask.key]: value })}
            />
          ))}
          {elsewhere.map((fault) => (
            <Told key={fault.path + fault.rule} fault={fault} />
          ))}
          <Sized start={start} />
        </div>
        <Made made={lasting} plan={plan} sound={faults.length === 0} stale={planned.isPlaceholderData} />
      </div>
    </form>
  );
}

function Head({ start, ready }: { start: StartView; ready: boolean }) {
  return (
    <header className="flex items-start justify-between gap-6">
      <div>
        <h1 className="text-[26px] font-bold">{start.info.title}</h1>
        <p className="text-[16px] text-quiet">{start.info.about}</p>
      </div>
      <div className="flex gap-2">
        <Link
          to="/begin"
          className="inline-flex min-h-11 items-center px-3 text-[15px] text-quiet hover:text-ink"
        >
          All starts
        </Link>
        <Button look="main" type="submit" className="!min-h-11 !px-6" disabled={!ready}>
          Make it
        </Button>
      </div>
    </header>
  );
}

/** The piece to be: its drawing, and its ladder in miniature. */
type MadeProps = {
  made: StartTyped | undefined;
  plan: Miniature | undefined;
  sound: boolean;
  stale: boolean;
};

function Made({ made, plan, sound, stale }: MadeProps) {
  return (
    <div className="min-w-0">
      <div className={`h-[min(26rem,calc(100dvh-19rem))] ${sound ? "" : "opacity-50"}`}>
        {made?.picture && (
          <PictureView picture={made.picture} size={[780, 400]} views={viewsOf(made.picture)} />
        )}
      </div>
      <div className="mt-4 min-h-28 border-t border-hair pt-4">
        {plan && <Ladderlet plan={plan} stale={stale || !sound} />}
      </div>
    </div>
  );
}

/** What was typed, without what was emptied again. */
const sentOf = (typed: Typed): Typed =>
  Object.fromEntries(Object.entries(typed).filter(([, value]) => value !== ""));

/** The newest answer that made a piece. */
function useLasting(told: StartTyped | undefined): StartTyped | undefined {
  const last = useRef<StartTyped>(undefined);
  if (told?.picture) last.current = told;
  return last.current;
}

/** The newest plan. */
function useLastingPlan(told: StartTyped | undefined): Miniature | undefined {
  const last = useRef<Miniature>(undefined);
  if (told?.plan) last.current = told.plan;
  return last.current;
}

type AskProps = {
  ask: AskInfo;
  units: Units;
  typed: string | boolean | undefined;
  /** What stands for it while nothing is typed. */
  stands: unknown;
  understood: string | undefined;
  fault: Fault | undefined;
  onType: (value: string | boolean) => void;
};

function Ask({ ask, units, typed, stands, understood, fault, onType }: AskProps) {
  const tables = useTables();
  if (ask.kind === "yes-no")
    return <Tick label={ask.label} ticked={(typed ?? stands) === true} onTick={onType} />;
  if (ask.choices.length > 0) {
    const names = new Map((tables.data?.metals ?? []).map((metal) => [metal.id, metal.name]));
    return (
      <Choice
        label={ask.label}
        value={String(typed ?? stands)}
        options={ask.choices.map((one) => [one, names.get(one) ?? one.replace(/-/g, " ")] as const)}
        onChoose={onType}
      />
    );
  }
  return (
    <Field label={ask.label}>
      {(id) => (
        <>
          <input
            id={id}
            className={`${boxed} figures placeholder:text-ink placeholder:opacity-75`}
            value={String(typed ?? "")}
            placeholder={sayMeasure(ask, stands, units)}
            aria-invalid={fault !== undefined}
            onChange={(event) => onType(event.target.value)}
          />
          {fault ? (
            <Told fault={fault} />
          ) : (
            typed &&
            understood && (
              <p className="text-[13px] text-quiet">
                {/wire|thick|wall/.test(ask.key) ? understood : understood.replace(/, near .*$/, "")}
              </p>
            )
          )}
        </>
      )}
    </Field>
  );
}

function Told({ fault }: { fault: Fault }) {
  return (
    <p role="alert" className="text-[14px] text-alarm">
      {fault.rule[0]?.toUpperCase()}
      {fault.rule.slice(1)}. {fault.remedy}
    </p>
  );
}

/** The calculators that its lengths come from. */
function Sized({ start }: { start: StartView }) {
  const names = Object.keys(start.info.sizes);
  if (names.length === 0) return null;
  return (
    <p className="mt-2 text-[14px] text-quiet">
      Lengths by{" "}
      {names.map((name, n) => (
        <span key={name}>
          {n > 0 && ", "}
          <Link to="/sizes/$name" params={{ name }} className="underline">
            {name.replace(/-/g, " ")}
          </Link>
        </span>
      ))}
      .
    </p>
  );
}
