import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from "react";
import { readLines } from "../api/queries";
import type { LineView, Part, PieceDocument } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { viewsOf } from "../drawing/views";
import { boxed } from "../parts/Field";

export type LineFieldProps = {
  label: string;
  document: PieceDocument;
  /** What stands there to begin with: the line of a part that is edited. */
  standing?: string;
  /** The part that the line edits; a new one otherwise. */
  base?: Part;
  placeholder?: string;
  onTake: (parts: Part[]) => void;
  /** Gets the field to give it the focus by a key. */
  hold?: (field: HTMLInputElement | null) => void;
};

/** A part said in one line. While it is typed it shows what was understood, and draws it; Enter takes it. */
export function LineField({
  label,
  document,
  standing = "",
  base,
  placeholder,
  onTake,
  hold,
}: LineFieldProps) {
  const [typed, setTyped] = useState(standing);
  const [rest, setRest] = useState<LineView[]>([]);
  useEffect(() => setTyped(standing), [standing]);
  const told = useRead(typed === standing ? "" : typed, document, base);
  const take = async (lines: string[]) => {
    const read = await readLines({ lines, ...asked(document, base) });
    const parts = read.flatMap((one) => (one.part ? [one.part] : []));
    if (parts.length > 0) onTake(parts);
    // What was not understood stays to be mended, line by line.
    const left = read.filter((one) => !one.part);
    setRest(left.slice(1));
    setTyped(left[0]?.line ?? (base ? typed : ""));
  };
  const press = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter" && typed.trim() && typed !== standing) {
      event.preventDefault();
      void take([typed]);
    }
    if (event.key === "Escape") setTyped(standing);
  };
  const paste = (event: ClipboardEvent<HTMLInputElement>) => {
    const lines = event.clipboardData
      .getData("text")
      .split(/\r?\n/)
      .filter((line) => line.trim());
    if (lines.length < 2 || base) return;
    event.preventDefault();
    void take(lines);
  };
  return (
    <div>
      <input
        ref={hold}
        aria-label={label}
        className={`${boxed} !min-h-11 text-[17px]`}
        value={typed}
        placeholder={placeholder}
        spellCheck={false}
        autoComplete="off"
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={press}
        onPaste={paste}
      />
      {told && <Told told={told} />}
      {rest.length > 0 && (
        <p className="mt-1 text-[14px] text-alarm">
          And {rest.length} more: {rest.map((one) => one.line).join("; ")}
        </p>
      )}
    </div>
  );
}

const asked = (document: PieceDocument, base: Part | undefined) => ({
  last: document.parts.at(-1) ?? null,
  base: base ?? null,
  taken: document.parts.map((part) => part.id),
});

/** What a line is read as while it is typed; only the newest counts. */
function useRead(line: string, document: PieceDocument, base: Part | undefined): LineView | null {
  const [told, setTold] = useState<LineView | null>(null);
  const now = useRef({ document, base });
  now.current = { document, base };
  useEffect(() => {
    if (!line.trim()) {
      setTold(null);
      return;
    }
    const stop = new AbortController();
    readLines({ lines: [line], ...asked(now.current.document, now.current.base) }, stop.signal).then(
      ([read]) => !stop.signal.aborted && setTold(read ?? null),
      () => undefined,
    );
    return () => stop.abort();
  }, [line]);
  return told;
}

function Told({ told }: { told: LineView }) {
  const fault = told.faults?.[0];
  if (fault)
    return <NotUnderstood line={told.line} path={fault.path} rule={fault.rule} remedy={fault.remedy} />;
  return (
    <div className="mt-2 flex items-start gap-4" role="status">
      {told.picture && (
        <span className="block h-20 w-28 shrink-0" aria-hidden>
          <PictureView picture={told.picture} size={[112, 80]} views={viewsOf(told.picture)} plain />
        </span>
      )}
      <p className="text-[14px] leading-relaxed text-quiet">
        {told.understood?.map((one) => (
          <span key={one.start} className="mr-3 whitespace-nowrap">
            {one.said}
          </span>
        ))}
        {told.taken?.map((one) => (
          <i key={one} className="mr-3">
            {one}
          </i>
        ))}
      </p>
    </div>
  );
}

/** The line with what was not understood underlined, and the nearest word that is. */
function NotUnderstood({
  line,
  path,
  rule,
  remedy,
}: {
  line: string;
  path: string;
  rule: string;
  remedy: string;
}) {
  const [from, to] = /\[(\d+):(\d+)\]/.exec(path)?.slice(1).map(Number) ?? [0, 0];
  const whole = from === 0 && to === line.length;
  return (
    <p role="alert" className="mt-1 text-[15px]">
      {!whole && (
        <span className="figures mr-3 text-[14px] whitespace-pre">
          {line.slice(0, from)}
          <u className="text-alarm decoration-2 underline-offset-4">{line.slice(from, to)}</u>
          {line.slice(to)}
        </span>
      )}
      <span className="text-alarm">
        {rule[0]?.toUpperCase()}
        {rule.slice(1)}. {remedy}
      </span>
    </p>
  );
}
