import { Link, useNavigate } from "@tanstack/react-router";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { beginPiece, useStarts } from "../api/queries";
import type { StartView } from "../api/types";
import { PictureView } from "../drawing/PictureView";
import { viewsOf } from "../drawing/views";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { boxed } from "../parts/Field";
import { ActionKey } from "../shell/ActionKey";
import { useKeys } from "../shell/keys";
import { findStarts, groupsOf } from "./find";

/** Begin: every start as a card, found by what a smith calls it; or a piece with nothing in it yet. */
export function BeginPage() {
  const starts = useStarts();
  const [words, setWords] = useState("");
  const search = useRef<HTMLInputElement>(null);
  const go = useNavigate();
  useEffect(() => search.current?.focus(), []);
  useKeys({ "list.find": () => search.current?.focus() });
  const found = findStarts(starts.data ?? [], words);
  const first = found[0]?.info.name;
  // Enter is quicker than the list: it takes the first that is found once there is one.
  const [taking, setTaking] = useState(false);
  useEffect(() => {
    if (taking && first && words.trim())
      void go({ to: "/begin/$start", params: { start: first }, search: {} });
    else if (taking && starts.isSuccess) setTaking(false);
  }, [taking, first, words, starts.isSuccess, go]);
  const take = (event: FormEvent) => {
    event.preventDefault();
    setTaking(true);
  };
  return (
    <div className="mx-auto max-w-[1160px] px-7 py-5">
      <header className="flex items-end justify-between gap-8">
        <form className="flex-1" onSubmit={take}>
          <h1 className="text-[26px] font-bold">Begin</h1>
          <div className="mt-2 flex max-w-md items-center gap-3">
            <input
              ref={search}
              aria-label="Find a start"
              className={`${boxed} !min-h-11 text-[17px]`}
              value={words}
              placeholder="What is it to be? ring stone, earring hollow, box …"
              onChange={(event) => setWords(event.target.value)}
            />
            <ActionKey of="list.find" />
          </div>
        </form>
        <EmptyPiece />
      </header>
      <FaultList error={starts.error} />
      {words.trim() ? (
        <Cards list={found} />
      ) : (
        groupsOf(found).map(([group, list]) => (
          <section key={group} className="mt-5" aria-label={group}>
            <h2 className="text-[15px] text-quiet">{group}</h2>
            <Cards list={list} />
          </section>
        ))
      )}
      {starts.isSuccess && found.length === 0 && (
        <p className="mt-8 max-w-md text-[17px] text-quiet">
          No start holds these words. Begin an empty piece at the right, and say its parts line by line.
        </p>
      )}
    </div>
  );
}

function Cards({ list }: { list: StartView[] }) {
  return (
    <ul className="mt-2 grid grid-cols-4 gap-x-4 gap-y-3">
      {list.map(({ info, picture }) => (
        <li key={info.name}>
          <Link
            to="/begin/$start"
            params={{ start: info.name }}
            search={{}}
            className="block rounded-md border border-hair bg-raised p-3 hover:border-quiet"
          >
            <span className="block h-24 text-metal" aria-hidden>
              <PictureView picture={picture} size={[240, 96]} views={viewsOf(picture)} plain />
            </span>
            <span className="mt-2 block text-[17px] font-semibold">{info.title}</span>
            <span className="block text-[14px] leading-snug text-quiet">{info.about}</span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function EmptyPiece() {
  const [name, setName] = useState("");
  const [error, setError] = useState<unknown>(null);
  const go = useNavigate();
  const begin = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const made = await beginPiece(name.trim() || "New piece");
      await go({ to: "/work/$piece", params: { piece: String(made.id) } });
    } catch (problem) {
      setError(problem);
    }
  };
  return (
    <form className="flex flex-col items-end gap-2" onSubmit={(event) => void begin(event)}>
      <div className="flex items-center gap-3">
        <label className="sr-only" htmlFor="new-piece">
          Name of a new piece
        </label>
        <input
          id="new-piece"
          className={`${boxed} !min-h-11 !w-56`}
          placeholder="Name of a new piece"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" className="!min-h-11">
          Begin with nothing
        </Button>
      </div>
      <FaultList error={error} />
    </form>
  );
}
