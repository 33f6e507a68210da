import { useQueryClient } from "@tanstack/react-query";
import { type RefObject, useEffect, useMemo, useRef, useState } from "react";
import { useTables } from "../api/queries";
import type { HeatStep, PieceView, Rehearsal } from "../api/types";
import { heatsOf } from "../document/moves";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { optionsOf, Select } from "../parts/Select";
import { BallPicture } from "./BallPicture";
import { Choices } from "./Choices";
import { Habits, VERDICTS, WhatHelps } from "./Compare";
import { Curves } from "./Curves";
import { GlowPicture } from "./GlowPicture";
import { HandsShare } from "./HandsShare";
import { eventsUntil, glowWord, seamsAt, stageAt } from "./moments";
import { Progress } from "./Progress";
import { type Chosen, copyRehearsal, FIRST, type Light, useGlow, useJob, useStale } from "./queries";
import { StageLine } from "./StageLine";
import { TimeBar } from "./TimeBar";

/** So many heats are rehearsed behind the one that is looked at. */
const MOST_AHEAD = 12;
const MOST_SEAMS = 3;

export type RehearsalBandProps = { view: PieceView };

/** The rehearsal of a piece's heats: where to point, how long, and what would happen, before the torch is lit. */
export function RehearsalBand({ view }: RehearsalBandProps) {
  const heats = heatsOf(view.plan);
  const band = useRef<HTMLDivElement>(null);
  const seen = useSeen(band);
  const [chosen, setChosen] = useState<Chosen>(FIRST);
  const heat = heats.find((one) => one.heat_no === chosen.heat_no) ?? heats[0];
  return (
    <div ref={band}>
      {heat ? (
        <OneHeat
          view={view}
          heats={heats}
          heat={heat}
          chosen={{ ...chosen, heat_no: heat.heat_no }}
          wanted={seen}
          onChoose={(what) => setChosen((now) => ({ ...now, ...what }))}
        />
      ) : (
        <p className="max-w-lg py-10 text-lg text-quiet">
          {view.plan.conflict
            ? "No plan is possible yet, so there is no heat to rehearse. The ladder says why."
            : "No heat yet. Once the piece has a join, each of its heats can be rehearsed here."}
        </p>
      )}
    </div>
  );
}

/** Whether something has come into view once: nothing is worked out for a band that nobody looks at. */
function useSeen(element: RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watch = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true));
    if (element.current) watch.observe(element.current);
    return () => watch.disconnect();
  }, [element]);
  return seen;
}

type OneHeatProps = {
  view: PieceView;
  heats: HeatStep[];
  heat: HeatStep;
  chosen: Chosen;
  wanted: boolean;
  onChoose: (what: Partial<Chosen>) => void;
};

function OneHeat({ view, heats, heat, chosen, wanted, onChoose }: OneHeatProps) {
  const asked = useJob(view, "heat", chosen, wanted);
  const rehearsal = asked.job?.rehearsal ?? null;
  const stale = useStale(view).data?.heats ?? [];
  return (
    <div>
      <Choices
        view={view}
        heats={heats}
        stale={stale}
        chosen={chosen}
        ahead={rehearsal !== null && heats.length <= MOST_AHEAD}
        onChoose={onChoose}
      />
      <FaultList error={asked.error} />
      {asked.job?.faults && asked.job.faults.length > 0 && (
        <div role="alert" className="py-4 text-[19px]">
          {asked.job.faults.map((fault) => (
            <p key={fault.path}>
              {fault.rule}. <span className="text-quiet">{fault.remedy}</span>
            </p>
          ))}
        </div>
      )}
      {asked.job?.state === "failed" && asked.job.faults.length === 0 && (
        <p role="alert" className="py-4 text-[19px]">
          The rehearsal came to no end: {asked.job.what}. <Button onClick={asked.again}>Try again</Button>
        </p>
      )}
      {asked.underWay && asked.job && <Progress job={asked.job} onStop={() => void asked.stop()} />}
      {asked.job?.state === "stopped" && (
        <p className="flex items-center gap-4 py-6 text-[19px] text-quiet">
          Stopped. <Button onClick={asked.again}>Rehearse again</Button>
        </p>
      )}
      {rehearsal && asked.job && (
        <Told
          key={asked.job.id}
          view={view}
          rehearsal={rehearsal}
          job={asked.job.id}
          chosen={chosen}
          isStale={stale.includes(heat.heat_no)}
        />
      )}
      {!rehearsal && !asked.job && !asked.error && <p className="py-10 text-quiet">Not rehearsed yet.</p>}
    </div>
  );
}

type ToldProps = {
  view: PieceView;
  rehearsal: Rehearsal;
  job: string;
  chosen: Chosen;
  isStale: boolean;
};

function Told({ view, rehearsal, job, chosen, isStale }: ToldProps) {
  const times = rehearsal.series.time_s;
  const end = Math.max(times[times.length - 1] ?? 1, 0.1);
  const [seconds, setSeconds] = useState(end);
  const [light, setLight] = useState<Light>("dim");
  const [helpWanted, setHelpWanted] = useState(false);
  const glow = useGlow(light).data ?? [];
  const tables = useTables().data;
  const torch = tables?.torches.find((one) => one.id === rehearsal.torch);
  return (
    <div>
      <Verdict view={view} rehearsal={rehearsal} job={job} isStale={isStale} />
      <div className="mt-2 grid grid-cols-[1fr_400px] gap-6">
        <Curves rehearsal={rehearsal} seconds={seconds} width={760} height={214} onSeconds={setSeconds} />
        <div className="flex flex-col">
          <div className="h-[160px] rounded-md border border-hair bg-sunk">
            {rehearsal.ball ? (
              <BallPicture rehearsal={rehearsal} glow={glow} seconds={seconds} />
            ) : (
              <GlowPicture
                picture={view.picture}
                rehearsal={rehearsal}
                glow={glow}
                seconds={seconds}
                footprint_mm={torch?.footprint_mm ?? 8}
                size={[398, 158]}
              />
            )}
          </div>
          <Now rehearsal={rehearsal} seconds={seconds} glow={glow} light={light} onLight={setLight} />
        </div>
      </div>
      <TimeBar seconds={seconds} end={end} onSeconds={setSeconds}>
        <StageLine rehearsal={rehearsal} seconds={seconds} end={end} onSeconds={setSeconds} />
      </TimeBar>
      <div className="mt-3 grid grid-cols-[1fr_400px] gap-6">
        <Steps rehearsal={rehearsal} seconds={seconds} />
        <div>
          <Habits rehearsal={rehearsal} />
          {(rehearsal.verdict !== "sure" || helpWanted) && (
            <WhatHelps view={view} chosen={chosen} wanted={helpWanted} onWanted={() => setHelpWanted(true)} />
          )}
        </div>
      </div>
    </div>
  );
}

type VerdictProps = { view: PieceView; rehearsal: Rehearsal; job: string; isStale: boolean };

/** What was found, largest of all, and the one action that copies it into the piece. */
function Verdict({ view, rehearsal, job, isStale }: VerdictProps) {
  const cache = useQueryClient();
  const [error, setError] = useState<unknown>(null);
  const used = useMemo(
    () =>
      view.document.rehearsals.some(
        (one) =>
          one.torch === rehearsal.torch &&
          one.surface === rehearsal.surface &&
          one.forms === rehearsal.forms &&
          one.joins.join() === rehearsal.joins.join() &&
          one.work === rehearsal.work &&
          one.seconds_likely === (rehearsal.seconds_to_flow?.likely ?? null),
      ),
    [view.document.rehearsals, rehearsal],
  );
  const copy = async () => {
    try {
      setError(null);
      cache.setQueryData(["piece", view.id], await copyRehearsal(view, job));
    } catch (problem) {
      setError(problem);
    }
  };
  const told = VERDICTS[rehearsal.verdict];
  const [first, ...rest] = rehearsal.lines ?? [rehearsal.says];
  return (
    <div className="mt-2">
      <div className="flex items-start justify-between gap-6">
        <div>
          <p className="text-[26px] font-semibold leading-snug">
            <span className={told.look} aria-hidden>
              {told.sign}{" "}
            </span>
            {first}
          </p>
          {rest.length > 0 && <p className="text-[17px] text-quiet">{rest.join(" ")}</p>}
        </div>
        <div className="flex shrink-0 items-center gap-5">
          <HandsShare hands={rehearsal.hands} />
          <Button look="main" className="shrink-0" disabled={used} onClick={() => void copy()}>
            {used ? "Used in the plan" : "Use this rehearsal"}
          </Button>
        </div>
      </div>
      {isStale && (
        <p className="mt-1 text-[16px] font-semibold text-warn" role="status">
          The forms have changed since this heat's rehearsal was used: it is out of date.
        </p>
      )}
      <FaultList error={error} />
    </div>
  );
}

type NowProps = {
  rehearsal: Rehearsal;
  seconds: number;
  glow: Parameters<typeof glowWord>[0];
  light: Light;
  onLight: (light: Light) => void;
};

const LIGHTS = optionsOf<Light>({ dark: "dark room", dim: "dim room", daylight: "daylight" });

/** What is seen at the moment shown: the glow in a word, and what has just happened. */
function Now({ rehearsal, seconds, glow, light, onLight }: NowProps) {
  const hottest = Math.max(
    20,
    ...rehearsal.series.parts.map((line) => line.hottest_c[nearest(rehearsal, seconds)] ?? 20),
  );
  const [latest] = eventsUntil(rehearsal, seconds);
  const titles = new Map(rehearsal.series.joins.map((line) => [line.id, line.title]));
  const seams = seamsAt(rehearsal, seconds).map(
    ({ join, state }) =>
      `${titles.get(join) ?? join} ${state === "run" ? "has run" : state === "dry" ? "dry" : `flux ${state}`}`,
  );
  return (
    <div className="mt-2 flex items-start justify-between gap-3 text-[16px] leading-snug">
      <p className="min-h-12">
        <span className="font-semibold">{glowWord(glow, hottest)}</span>
        {seams.length > 0 ? `; ${seams.slice(0, MOST_SEAMS).join(", ")}` : latest ? `; ${latest.text}` : ""}
      </p>
      <Select
        label="Light of the room"
        className="min-h-9 shrink-0 rounded-md border border-hair bg-raised px-2 text-[14px]"
        value={light}
        options={LIGHTS}
        onChoose={onLight}
      />
    </div>
  );
}

function nearest(rehearsal: Rehearsal, seconds: number): number {
  const times = rehearsal.series.time_s;
  const found = times.findIndex((time) => time >= seconds - 1e-6);
  return found < 0 ? times.length - 1 : found;
}

/** The programme in words; the stage of the moment shown stands out. */
function Steps({ rehearsal, seconds }: { rehearsal: Rehearsal; seconds: number }) {
  const now = stageAt(rehearsal, seconds);
  return (
    <ol aria-label="Programme" className="space-y-1.5">
      {rehearsal.programme.map((stage, n) => (
        <li
          key={stage.text}
          aria-current={n === now ? "step" : undefined}
          className={`grid grid-cols-[2rem_1fr] leading-snug ${n === now ? "text-[18px] font-semibold" : "text-[17px] text-quiet"}`}
        >
          <span className="figures">{n + 1}</span>
          <span>
            {stage.text}
            {n === now && stage.if_late && (
              <span className="block text-[16px] font-normal text-quiet">{stage.if_late}</span>
            )}
          </span>
        </li>
      ))}
    </ol>
  );
}
