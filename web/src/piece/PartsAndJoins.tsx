import { type RefObject, useEffect, useRef, useState } from "react";
import { useTables } from "../api/queries";
import type { DrawnOutline, Form, Part, PieceView, Work } from "../api/types";
import {
  addPart,
  addPartOf,
  addWork,
  changePart,
  FORM_WORDS,
  type FormKind,
  removeJoin,
  removePart,
  removeWork,
  sayForm,
  titleOf,
} from "../document/edit";
import type { Edits } from "../document/useEdits";
import { bentAlong, courseOf, type Spot } from "../drawing/course";
import type { Move } from "../drawing/drag";
import { PictureView, type Selection } from "../drawing/PictureView";
import { type View, viewsOf } from "../drawing/views";
import { Button } from "../parts/Button";
import { boxed } from "../parts/Field";
import { Menu } from "../parts/Select";
import { useUnits } from "../parts/useUnits";
import { counted } from "../parts/words";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { DrawingPocket } from "./DrawingPocket";
import { JoinFields } from "./JoinFields";
import { LineField } from "./LineField";
import { LinesPocket } from "./LinesPocket";
import { movedBy } from "./moved";
import { PartFields } from "./PartFields";
import { ProposalCard } from "./ProposalCard";
import { ShelfPocket } from "./ShelfPocket";
import { type Pointing, usePointing } from "./usePointing";
import { WholeFields } from "./WholeFields";
import { WORK_WORDS, WorkFields } from "./WorkFields";

const MENU = `${boxed} !w-28`;

export type PartsAndJoinsProps = {
  view: PieceView;
  edits: Edits;
  selected: Selection;
  onSelect: (selection: Selection) => void;
};

/** The scale picture, and beside it the same parts and joins as a list that is edited in place. */
export function PartsAndJoins({ view, edits, selected, onSelect }: PartsAndJoinsProps) {
  const { document } = view;
  const pointing = usePointing(document, edits, onSelect);
  const line = useRef<HTMLInputElement>(null);
  useKeys({
    "piece.join": document.parts.length > 0 ? pointing.begin : undefined,
    "piece.line": () => line.current?.focus(),
  });
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_470px] gap-8">
      <div className="sticky top-32 flex h-[calc(100dvh-13.5rem)] min-h-80 flex-col">
        {document.parts.length > 0 ? (
          <Drawn view={view} edits={edits} pointing={pointing} selected={selected} onSelect={onSelect} />
        ) : (
          <EmptyPicture />
        )}
        <ProposalCard pointing={pointing} document={document} />
      </div>
      <div>
        <Parts view={view} edits={edits} selected={selected} onSelect={onSelect} hold={line} />
        <Joins view={view} edits={edits} selected={selected} onSelect={onSelect} pointing={pointing} />
        <OtherWork view={view} edits={edits} selected={selected} onSelect={onSelect} />
        <WholeFields document={document} edits={edits} />
      </div>
    </div>
  );
}

const SHOWN: readonly (readonly [string, readonly View[]])[] = [
  ["both", ["front", "above"]],
  ["from above", ["above"]],
  ["from the front", ["front"]],
];

type DrawnProps = PartsAndJoinsProps & { pointing: Pointing };

/** The picture, from above and from the front; while pointing, a part that is clicked is pointed at. */
function Drawn({ view, edits, pointing, selected, onSelect }: DrawnProps) {
  const { document, picture } = view;
  const [chosen, setChosen] = useState<number | null>(null);
  const usual = viewsOf(picture).length > 1 ? 0 : 1;
  const [words, views] = SHOWN[chosen ?? usual] ?? SHOWN[0] ?? ["", []];
  const next = () => setChosen(((chosen ?? usual) + 1) % SHOWN.length);
  useKeys({ "piece.view": next });
  const titles = Object.fromEntries(
    [...document.parts, ...document.joins].map((one) => [one.id, titleOf(one)]),
  );
  const move = (id: string, by: Move) => {
    const part = document.parts.find((one) => one.id === id);
    if (part) edits.apply(`moved ${titleOf(part)}`, (now) => movedBy(now, picture, id, by));
  };
  const bent = selected?.kind === "part" ? document.parts.find((one) => one.id === selected.id) : undefined;
  const points = bent && courseOf(bent, picture);
  const course = bent &&
    points && {
      points,
      closed: "closed" in bent.form && bent.form.closed,
      onChange: (to: readonly Spot[]) =>
        edits.apply(`bent ${titleOf(bent)}`, (now) => changePart(now, bent.id, bentAlong(bent, picture, to))),
    };
  const choose = (at: Selection) =>
    pointing.letters && at?.kind === "part" ? pointing.point(at.id) : onSelect(at);
  return (
    <div className="relative min-h-0 flex-1">
      <Button look="bare" className="absolute top-0 left-0 z-10 !min-h-9 !px-2" onClick={next}>
        {words} <ActionKey of="piece.view" />
      </Button>
      <PictureView
        picture={picture}
        views={views}
        selected={pointing.first ? { kind: "part", id: pointing.first } : selected}
        titles={titles}
        letters={pointing.letters}
        onSelect={choose}
        onMove={move}
        course={course}
      />
    </div>
  );
}

function EmptyPicture() {
  return (
    <div className="flex h-full flex-col justify-center px-8">
      <p className="text-[28px] font-semibold">Begin with a part.</p>
      <p className="mt-2 max-w-md text-[17px] text-quiet">
        Say it in a line at the right, as you would at the bench: <b>disc 14 × 0.5 fine, domed 4</b>. Ten
        lines pasted make ten parts. Then point at one part and at another: the join that they call for is
        proposed.
      </p>
    </div>
  );
}

type PartsProps = PartsAndJoinsProps & { hold: RefObject<HTMLInputElement | null> };

function Parts({ view, edits, selected, onSelect, hold }: PartsProps) {
  const tables = useTables();
  const units = useUnits();
  const { document } = view;
  const metals = new Map(
    [...(tables.data?.metals ?? []), ...document.metals].map((metal) => [metal.id, metal.name]),
  );
  const [asThat, setAsThat] = useState<{ id: string; words: string } | null>(null);
  const add = (kind: FormKind) => {
    const made = addPart(document, kind);
    const before = document.parts.findLast((part) => part.metal !== null);
    const metal = before?.metal ? (metals.get(before.metal) ?? before.metal) : "";
    setAsThat(before ? { id: made.id, words: `${metal}, as ${titleOf(before)} is.` } : null);
    edits.apply(`added a ${kind}`, (now) => addPart(now, kind).document);
    onSelect({ kind: "part", id: made.id });
  };
  const addSaid = (parts: Part[]) => {
    const last = parts.at(-1);
    const words = parts.length === 1 && last ? titleOf(last) : counted(parts.length, "part");
    edits.apply(`added ${words}`, (now) => ({ ...now, parts: [...now.parts, ...parts] }));
    if (last) onSelect({ kind: "part", id: last.id });
  };
  const addDrawn = (drawn: DrawnOutline, name: string) => {
    const form: Form = { kind: "sheet", thickness_mm: 0.8, outline: drawn.outline, domed_mm: 0 };
    const made = addPartOf(document, form, name, name);
    edits.apply(`added ${name} from a drawing`, (now) => addPartOf(now, form, name, name).document);
    onSelect({ kind: "part", id: made.id });
  };
  return (
    <section>
      <div className="flex items-center justify-between">
        <h2 className="text-[17px] font-semibold">Parts</h2>
        <div className="flex items-center gap-1">
          {document.parts.length > 0 && <LinesPocket document={document} edits={edits} />}
          <DrawingPocket onRead={addDrawn} />
          <ShelfPocket copies={document.copies} edits={edits} />
          <Menu label="Add a part" options={FORM_WORDS} onChoose={add} className={MENU} />
        </div>
      </div>
      <div className="mt-2 flex items-start gap-2">
        <div className="min-w-0 flex-1">
          <LineField
            label="Say a part"
            document={document}
            placeholder="Dome: disc 14 × 0.5 fine, domed 4"
            onTake={addSaid}
            hold={(field) => {
              hold.current = field;
            }}
          />
        </div>
        <span className="pt-2.5">
          <ActionKey of="piece.line" />
        </span>
      </div>
      <ul className="mt-3 border-t border-hair">
        {document.parts.map((part) => (
          <Row
            key={part.id}
            open={selected?.kind === "part" && selected.id === part.id}
            onToggle={(open) => onSelect(open ? { kind: "part", id: part.id } : null)}
            title={titleOf(part)}
            mark={part.count > 1 ? `${String(part.count)}×` : ""}
            detail={`${part.made ? "there already: " : ""}${part.metal ? (metals.get(part.metal) ?? part.metal) : "no metal"}, ${sayForm(part.form, units)}`}
            onRemove={() => {
              edits.apply(`took out ${titleOf(part)}`, (now) => removePart(now, part.id));
              onSelect(null);
            }}
          >
            {asThat?.id === part.id && <p className="pt-1 text-[14px] text-quiet">{asThat.words}</p>}
            <PartFields part={part} document={document} tables={tables.data} edits={edits} />
          </Row>
        ))}
      </ul>
    </section>
  );
}

type JoinsProps = PartsAndJoinsProps & { pointing: Pointing };

function Joins({ view, edits, selected, onSelect, pointing }: JoinsProps) {
  const { document } = view;
  const names = new Map(document.parts.map((part) => [part.id, titleOf(part)]));
  return (
    <section className="mt-6">
      <div className="flex items-center justify-between">
        <h2 className="text-[17px] font-semibold">Joins</h2>
        <Button className="!min-h-9" disabled={document.parts.length === 0} onClick={pointing.begin}>
          Join parts <ActionKey of="piece.join" />
        </Button>
      </div>
      {document.joins.length === 0 && document.parts.length > 0 && (
        <p className="mt-2 text-[15px] text-quiet">
          No join yet. Point at one part and at another; a ring pointed at twice is closed on itself.
        </p>
      )}
      <ul className="mt-2 border-t border-hair">
        {document.joins.map((join, n) => (
          <Row
            key={join.id}
            open={selected?.kind === "join" && selected.id === join.id}
            onToggle={(open) => onSelect(open ? { kind: "join", id: join.id } : null)}
            title={titleOf(join)}
            mark={String(n + 1)}
            detail={`${join.made ? "made already: " : ""}${join.kind} of ${[...new Set(join.between)].map((one) => names.get(one) ?? one).join(" and ")}, ${join.holds.replace("-", " ")}`}
            onRemove={() => {
              edits.apply(`took out ${titleOf(join)}`, (now) => removeJoin(now, join.id));
              onSelect(null);
            }}
          >
            <JoinFields join={join} document={document} edits={edits} />
          </Row>
        ))}
      </ul>
    </section>
  );
}

function OtherWork({ view, edits, selected, onSelect }: PartsAndJoinsProps) {
  const { document } = view;
  const names = new Map(document.parts.map((part) => [part.id, titleOf(part)]));
  const add = (kind: Work["kind"]) => {
    const on = selected?.kind === "part" ? selected.id : null;
    const made = addWork(document, kind, on);
    edits.apply(`added ${kind}`, (now) => addWork(now, kind, on).document);
    onSelect({ kind: "work", id: made.id });
  };
  return (
    <section className="mt-6">
      <div className="flex items-center justify-between">
        <h2 className="text-[17px] font-semibold">Other work</h2>
        {document.parts.length > 0 && (
          <Menu label="Add work" options={WORK_WORDS} onChoose={add} className={MENU} />
        )}
      </div>
      <ul className="mt-2 border-t border-hair">
        {document.work.map((work) => (
          <Row
            key={work.id}
            open={selected?.kind === "work" && selected.id === work.id}
            onToggle={(open) => onSelect(open ? { kind: "work", id: work.id } : null)}
            title={titleOf(work)}
            mark=""
            detail={`${work.done ? "done already: " : ""}${work.kind} ${work.parts.map((one) => names.get(one) ?? one).join(", ")}`}
            onRemove={() => {
              edits.apply(`took out ${titleOf(work)}`, (now) => removeWork(now, work.id));
              onSelect(null);
            }}
          >
            <WorkFields work={work} document={document} edits={edits} />
          </Row>
        ))}
      </ul>
    </section>
  );
}

type RowProps = {
  open: boolean;
  onToggle: (open: boolean) => void;
  title: string;
  mark: string;
  detail: string;
  onRemove: () => void;
  children: React.ReactNode;
};

function Row({ open, onToggle, title, mark, detail, onRemove, children }: RowProps) {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    // Chosen elsewhere, on the ladder say, it opens without pulling the page away from there.
    const band = row.current?.closest("section")?.getBoundingClientRect();
    // Nor from under a hand that is still saying parts.
    const typing = document.activeElement instanceof HTMLInputElement;
    if (open && band && band.bottom > window.innerHeight / 2 && !typing)
      row.current?.scrollIntoView({ block: "nearest" });
  }, [open]);
  return (
    <li ref={row} className={`scroll-mt-6 scroll-mb-4 border-b border-hair ${open ? "bg-raised" : ""}`}>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => onToggle(!open)}
        className="flex w-full items-baseline gap-3 px-2 py-2 text-left hover:bg-sunk"
      >
        {mark && (
          <span className="figures w-7 shrink-0 whitespace-nowrap text-[15px] font-bold text-accent">
            {mark}
          </span>
        )}
        <span className="shrink-0 text-[16px] font-semibold">{title}</span>
        <span className="min-w-0 truncate text-[14px] text-quiet">{detail}</span>
      </button>
      {open && (
        <div className="px-2 pb-3">
          {children}
          <Button look="bare" className="mt-2 !min-h-9 text-alarm" onClick={onRemove}>
            Take {title} out
          </Button>
        </div>
      )}
    </li>
  );
}
