import { useQueryClient } from "@tanstack/react-query";
import { useNavigate, useRouterState } from "@tanstack/react-router";
import { Dialog } from "radix-ui";
import { type ReactNode, useEffect, useRef, useState } from "react";
import { beginPieceFrom, lookAtPiece, readOutline, revisePiece, setBench, useBench } from "../api/queries";
import type { DrawnOutline, Looked, PieceView } from "../api/types";
import { addPartOf } from "../document/edit";
import { PictureView } from "../drawing/PictureView";
import { viewsOf } from "../drawing/views";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { sayLength } from "../parts/units";
import { useUnits } from "../parts/useUnits";
import { counted } from "../parts/words";
import { type Dropped, differences, whatIs } from "./dropped";
import { sayMiniature } from "./Ladderlet";

/** A file dropped anywhere on the window is taken in; what it would change is shown before it does. */
export function DropZone() {
  const [over, setOver] = useState(false);
  const [dropped, setDropped] = useState<Dropped | null>(null);
  useEffect(() => {
    const drag = (event: DragEvent) => {
      if (!event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      setOver(true);
    };
    const leave = (event: DragEvent) => event.relatedTarget === null && setOver(false);
    const drop = (event: DragEvent) => {
      const file = event.dataTransfer?.files[0];
      setOver(false);
      if (!file) return;
      event.preventDefault();
      void file.text().then((text) => setDropped(whatIs(file.name, text)));
    };
    window.addEventListener("dragover", drag);
    window.addEventListener("dragleave", leave);
    window.addEventListener("drop", drop);
    return () => {
      window.removeEventListener("dragover", drag);
      window.removeEventListener("dragleave", leave);
      window.removeEventListener("drop", drop);
    };
  }, []);
  return (
    <>
      {over && (
        <div className="pointer-events-none fixed inset-0 z-30 flex items-center justify-center bg-ground/85">
          <p className="text-[28px] font-semibold">Drop it: a piece, a bench, an outline</p>
        </div>
      )}
      <Dialog.Root open={dropped !== null} onOpenChange={(open) => !open && setDropped(null)}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-20 bg-black/50" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed top-1/2 left-1/2 z-20 max-h-[86vh] w-[min(44rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg border border-hair bg-raised px-7 py-5 text-ink"
          >
            {dropped && <TakeIn key={dropped.name} dropped={dropped} onDone={() => setDropped(null)} />}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

type TakeInProps<D extends Dropped = Dropped> = { dropped: D; onDone: () => void };

function TakeIn({ dropped, onDone }: TakeInProps) {
  switch (dropped.kind) {
    case "piece":
      return <TakePiece dropped={dropped} onDone={onDone} />;
    case "bench":
      return <TakeBench dropped={dropped} onDone={onDone} />;
    case "outline":
      return <TakeOutline dropped={dropped} onDone={onDone} />;
    default:
      return (
        <Asked title={dropped.name} onDone={onDone}>
          <p className="text-[16px] text-alarm">{dropped.why}</p>
        </Asked>
      );
  }
}

type AskedProps = {
  title: string;
  children: ReactNode;
  error?: unknown;
  act?: string | undefined;
  onAct?: () => Promise<unknown>;
  onDone: () => void;
};

/** What would be taken in, and the one thing that does it. */
function Asked({ title, children, error, act, onAct, onDone }: AskedProps) {
  const [refused, setRefused] = useState<unknown>(null);
  const go = () => onAct?.().then(onDone, setRefused);
  return (
    <>
      <Dialog.Title className="text-[24px] font-bold">{title}</Dialog.Title>
      <div className="mt-3">{children}</div>
      <FaultList error={error ?? refused} />
      <div className="mt-5 flex gap-3">
        {act && (
          <Button look="main" onClick={go}>
            {act}
          </Button>
        )}
        <Button look={act ? "bare" : "plain"} onClick={onDone}>
          {act ? "Leave everything as it is" : "Close"}
        </Button>
      </div>
    </>
  );
}

function TakePiece({ dropped, onDone }: TakeInProps<Extract<Dropped, { kind: "piece" }>>) {
  const [seen, error] = useOnce<Looked>(() => lookAtPiece(dropped.document));
  const go = useNavigate();
  const begin = async () => {
    const made = await beginPieceFrom(dropped.document);
    await go({ to: "/work/$piece", params: { piece: String(made.id) }, search: {} });
  };
  const faults = seen?.faults ?? [];
  return (
    <Asked
      title={seen?.name || dropped.name}
      error={error}
      act={seen && faults.length === 0 ? "Begin it as a new piece" : undefined}
      onAct={begin}
      onDone={onDone}
    >
      {seen?.picture && (
        <>
          <div className="h-64">
            <PictureView picture={seen.picture} size={[620, 256]} views={viewsOf(seen.picture)} plain />
          </div>
          <p className="mt-3 text-[16px]">
            {counted(seen.parts ?? 0, "part")}, {counted(seen.joins ?? 0, "join")}
            {seen.plan && `: ${sayMiniature(seen.plan)}`}. Nothing that you have is changed.
          </p>
        </>
      )}
      {faults.map((fault) => (
        <p key={fault.path + fault.rule} className="text-[15px] text-alarm">
          {fault.path}: {fault.rule}. {fault.remedy}
        </p>
      ))}
    </Asked>
  );
}

function TakeBench({ dropped, onDone }: TakeInProps<Extract<Dropped, { kind: "bench" }>>) {
  const now = useBench().data;
  const cache = useQueryClient();
  const go = useNavigate();
  if (!now) return null;
  const changes = differences(now, dropped.house, dropped.bench);
  const take = async () => {
    const house = { ...now.own_house, ...dropped.house };
    const bench = { ...now.own_bench, ...dropped.bench };
    await setBench(now.revision, house as typeof now.own_house, bench as typeof now.own_bench);
    await cache.invalidateQueries();
    await go({ to: "/bench" });
  };
  return (
    <Asked
      title="A bench"
      act={changes.length > 0 ? `Change ${counted(changes.length, "thing")} of your bench` : undefined}
      onAct={take}
      onDone={onDone}
    >
      {changes.length === 0 ? (
        <p className="text-[16px] text-quiet">It is as yours is: there is nothing to change.</p>
      ) : (
        <table className="w-full text-left text-[15px]">
          <thead className="text-quiet">
            <tr>
              <th className="py-1 font-normal">What</th>
              <th className="font-normal">is</th>
              <th className="font-normal">becomes</th>
            </tr>
          </thead>
          <tbody>
            {changes.map((one) => (
              <tr key={one.key} className="border-t border-hair">
                <td className="py-1.5">{one.key}</td>
                <td className="text-quiet">{one.was}</td>
                <td className="font-semibold">{one.becomes}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Asked>
  );
}

/** An outline becomes a part of sheet: of the piece that is open, else of a new one. */
function TakeOutline({ dropped, onDone }: TakeInProps<Extract<Dropped, { kind: "outline" }>>) {
  const [drawn, error] = useOnce<DrawnOutline>(() => readOutline(dropped.name, dropped.text, null));
  const path = useRouterState({ select: (state) => state.location.pathname });
  const cache = useQueryClient();
  const go = useNavigate();
  const units = useUnits();
  const key = Number(/^\/work\/(\d+)/.exec(path)?.[1] ?? 0);
  const open = cache.getQueryData<PieceView>(["piece", key]);
  const name = dropped.name.replace(/\.\w+$/, "");
  const take = async () => {
    if (!drawn) return;
    const form = { kind: "sheet" as const, thickness_mm: 0.8, outline: drawn.outline, domed_mm: 0 };
    if (open) {
      const { document } = addPartOf(open.document, form, name, name);
      cache.setQueryData(["piece", key], await revisePiece(open, document, `added ${name} from a drawing`));
      return;
    }
    const part = { id: "outline", name, metal: "sterling-925", form };
    const made = await beginPieceFrom({ format: "eskel-piece/1", name, parts: [part] });
    await go({ to: "/work/$piece", params: { piece: String(made.id) }, search: {} });
  };
  return (
    <Asked
      title={name}
      error={error}
      act={drawn ? (open ? `Add it to ${open.document.name}` : "Begin a piece with it") : undefined}
      onAct={take}
      onDone={onDone}
    >
      {drawn && (
        <p className="text-[16px]">
          An outline {sayLength(drawn.width_mm, units)} by {sayLength(drawn.height_mm, units)}
          {drawn.holes > 0 && `, with ${counted(drawn.holes, "hole")}`}: a part of 0.8 mm sheet.
        </p>
      )}
    </Asked>
  );
}

/** The answer to what is asked once, or why there is none. */
function useOnce<T>(ask: () => Promise<T>): [T | null, unknown] {
  const [told, setTold] = useState<T | null>(null);
  const [error, setError] = useState<unknown>(null);
  // Asked when it is opened, and not again: what would be asked later is another question.
  const first = useRef(ask);
  useEffect(() => {
    first.current().then(setTold, setError);
  }, []);
  return [told, error];
}
