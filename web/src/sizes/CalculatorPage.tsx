import { Link, useNavigate, useParams } from "@tanstack/react-router";
import { useEffect, useMemo, useRef, useState } from "react";
import { useBench, usePiece, useSizes, useStarts } from "../api/queries";
import type { CalculatorView, SizeAnswer } from "../api/types";
import { Button } from "../parts/Button";
import type { Units } from "../parts/units";
import { DrawOn } from "./DrawOn";
import { KeepPocket } from "./KeepPocket";
import { type Asking, KeyFields } from "./KeyFields";
import { keepTyped, readKept } from "./kept";
import { MillBar } from "./MillBar";
import { Result } from "./Result";
import { beginKeys, changeAt, sendKeys, type TypedGroup } from "./typed";
import { useAnswer } from "./useAnswer";

/** One calculator. */
export function CalculatorPage() {
  const { name } = useParams({ from: "/sizes/$name" });
  const sizes = useSizes();
  const one = sizes.data?.find((calculator) => calculator.name === name);
  const house = useBench().data?.house;
  if (sizes.isSuccess && !one) return <Unknown />;
  if (!one || !house) return <p className="p-8 text-quiet">Opening…</p>;
  // In another house the same numbers would mean something else: the calculator begins anew.
  const said = `${one.name} ${house.units} ${house.mass} ${house.temperature}`;
  return <Opened key={said} one={one} units={house} />;
}

function Unknown() {
  const go = useNavigate();
  return (
    <div className="p-8">
      <p className="text-lg">There is no calculator of that name.</p>
      <Button className="mt-3" onClick={() => void go({ to: "/sizes" })}>
        See all of them
      </Button>
    </div>
  );
}

const MANY: TypedGroup = { pieces: "1", spares: "0", mirrored: false };
const manyKeys = [
  { key: "pieces", label: "How many of it", quantity: "number", kind: "quantity" },
  { key: "spares", label: "Spares", quantity: "number", kind: "quantity" },
  { key: "mirrored", label: "every second one mirrored", quantity: "", kind: "yes-no" },
] as const;
const MANY_KEYS = manyKeys.map((one) => ({
  ...one,
  required: true,
  default: null,
  choices: [],
  keys: [],
  variants: [],
}));

function Opened({ one, units }: { one: CalculatorView; units: Units }) {
  const begin = () => ({ ...beginKeys(one.keys, one.example, units), ...MANY });
  const [typed, setTyped] = useState<TypedGroup>(() => ({ ...begin(), ...readKept(one.name, units) }));
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => form.current?.querySelector<HTMLElement>("input, select")?.focus(), []);
  const asksPiece = one.keys.some((key) => key.kind === "document");
  const chosen = usePiece(asksPiece ? Number(typed.piece) : 0);
  const sent = useMemo(() => {
    const piece = chosen.data ? { piece: chosen.data.document } : {};
    return { ...sendKeys(one.keys, typed), ...sendKeys(MANY_KEYS, typed), ...piece };
  }, [one.keys, typed, chosen.data]);
  const { answer, faults } = useAnswer(one.name, sent);
  const show = (next: TypedGroup) => {
    setTyped(next);
    keepTyped(one.name, next, units);
  };
  const asking: Asking = {
    units,
    typed,
    understood: faults.length > 0 ? {} : (answer?.understood ?? {}),
    faults,
    onType: (path, value) => show(changeAt(typed, path, value)),
  };
  const elsewhere = faults.filter((fault) => !isShown(fault.path, sent, one));
  return (
    <div className="px-7 py-5">
      <Head one={one} answer={answer} sound={faults.length === 0} sent={sent} onAgain={() => show(begin())} />
      <div className="mt-4 grid grid-cols-[300px_1fr] gap-8">
        <form
          ref={form}
          className="grid grid-cols-2 content-start gap-x-4 gap-y-2.5"
          onSubmit={(event) => event.preventDefault()}
        >
          <KeyFields keys={one.keys} at={[]} values={typed} asking={asking} />
          {answer?.cut && (
            <div className="col-span-2 mt-1 grid grid-cols-2 gap-x-4 border-t border-hair pt-2">
              <KeyFields keys={MANY_KEYS} at={[]} values={typed} asking={asking} />
            </div>
          )}
        </form>
        <div className="min-w-0">
          {elsewhere.map((fault) => (
            <p
              key={fault.path + fault.rule}
              role="alert"
              className="mb-3 border-l-[3px] border-alarm pl-3 text-[16px] text-alarm"
            >
              {fault.rule[0]?.toUpperCase()}
              {fault.rule.slice(1)}. {fault.remedy}
            </p>
          ))}
          {answer && <Result answer={answer} stale={faults.length > 0} />}
          {one.name === "draw-down" && <MillBar sent={sent} sound={faults.length === 0} />}
          {one.name === "pour" && answer && (
            <DrawOn found={answer.found} metal={typed.metal} profile={typed.profile} units={units} />
          )}
        </div>
      </div>
    </div>
  );
}

type HeadProps = {
  one: CalculatorView;
  answer: SizeAnswer | null;
  sound: boolean;
  sent: Record<string, unknown>;
  onAgain: () => void;
};

/** What the calculator is for, and what can be taken away from it: the drawing, the print, the parts. */
function Head({ one, answer, sound, sent, onAgain }: HeadProps) {
  const svg = answer?.found.svg;
  return (
    <header className="flex items-start justify-between gap-6">
      <div>
        <h1 className="text-[26px] font-bold">{one.title}</h1>
        <p className="text-[16px] text-quiet">{one.about}</p>
      </div>
      <div className="flex shrink-0 gap-2 print:hidden">
        <Button look="bare" onClick={onAgain}>
          Begin again
        </Button>
        {typeof svg === "string" && (
          <a
            className="inline-flex min-h-10 items-center rounded-md border border-hair bg-raised px-4 text-[15px] font-medium hover:border-quiet"
            download={`${one.name}.svg`}
            href={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`}
          >
            Drawing at 1:1
          </a>
        )}
        <BeginFrom name={one.name} sent={sent} />
        <Button onClick={() => window.print()}>Print</Button>
        {answer?.cut && sound && <KeepPocket name={one.name} title={answer.cut.title} sent={sent} />}
      </div>
    </header>
  );
}

/** The starts that take their lengths from this calculator, begun with what was typed here. */
function BeginFrom({ name, sent }: { name: string; sent: Record<string, unknown> }) {
  const starts = useStarts().data ?? [];
  return starts
    .filter((start) => Object.keys(start.info.sizes[name] ?? {}).length > 0)
    .slice(0, 2)
    .map(({ info }) => (
      <Link
        key={info.name}
        to="/begin/$start"
        params={{ start: info.name }}
        search={measuresFor(info.sizes[name] ?? {}, sent)}
        className="inline-flex min-h-10 items-center rounded-md border border-hair bg-raised px-4 text-[15px] font-medium hover:border-quiet"
      >
        Begin {lower(info.title)} from it
      </Link>
    ));
}

const lower = (title: string) => `a ${(title[0] ?? "").toLowerCase()}${title.slice(1)}`;

/** What was typed into a calculator, by the keys of a start. */
function measuresFor(keys: Record<string, string>, sent: Record<string, unknown>): Record<string, string> {
  const known = Object.entries(keys).filter(([theirs]) => ["string", "number"].includes(typeof sent[theirs]));
  return Object.fromEntries(known.map(([theirs, own]) => [own, String(sent[theirs])]));
}

/** Whether a fault is told beside its own field: one that was typed into, at the top or below. */
function isShown(path: string, sent: Record<string, unknown>, one: CalculatorView): boolean {
  const top = path.split(/[.[]/)[0] ?? "";
  const info = one.keys.find((key) => key.key === top) ?? MANY_KEYS.find((key) => key.key === top);
  return info?.kind === "quantity" && top in sent && path === top;
}
