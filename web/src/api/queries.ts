/** What the screens ask for, and what they change. */
import { keepPreviousData, QueryClient, useQuery } from "@tanstack/react-query";
import { get, passes, post, put, remove } from "./client";
import type {
  AskedOfLog,
  Bench,
  Caution,
  DrawnUnit,
  FindingView,
  Form,
  HouseOverrides,
  MakingView,
  Part,
  PieceDocument,
  PieceLine,
  PieceView,
  RestOtherwise,
  RunFile,
  RunView,
} from "./types";

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      // A server that is away comes back by itself, and so does the screen; a refusal is told at once.
      retry: (count, problem) => passes(problem) || count < 1,
      retryDelay: (count) => Math.min(500 * 2 ** count, 5_000),
      networkMode: "always",
      staleTime: 2_000,
      refetchOnWindowFocus: true,
    },
  },
});

/** Have what is shown asked anew. What is being asked for the first time is broken off for that: its answer may be from before. */
export async function askAnew(cache: QueryClient, queryKey: string[] = []): Promise<void> {
  await cache.cancelQueries({ queryKey });
  await cache.invalidateQueries({ queryKey });
}

export const usePieces = () => useQuery({ queryKey: ["pieces"], queryFn: () => get("/api/pieces") });

/** A line of the list with its picture, and with its plan where the list does not know that yet: asked for when it is looked at. */
export const useLine = (line: PieceLine, seen: boolean) =>
  useQuery({
    queryKey: ["pieces", "line", line.id, line.changed_at],
    enabled: seen,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) => get("/api/pieces/{key}/line", { params: { path: { key: line.id } }, signal }),
  });

export const usePiece = (key: number) =>
  useQuery({
    queryKey: ["piece", key],
    enabled: key > 0,
    queryFn: () => get("/api/pieces/{key}", { params: { path: { key } } }),
  });

/** The piece with its plan proven, where one of many joins was planned at once: asked for in the background. */
export const useWholePlan = (view: PieceView) =>
  useQuery({
    queryKey: ["piece", view.id, "whole", view.revision],
    enabled: view.plan.status === "good",
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) =>
      get("/api/pieces/{key}", {
        params: { path: { key: view.id }, query: { whole: true } },
        signal,
      }),
  });

export const useWhyJoin = (view: PieceView, join: string) =>
  useQuery({
    queryKey: ["why", view.id, view.revision, join],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) =>
      get("/api/pieces/{key}/why/{join}", {
        params: { path: { key: view.id, join } },
        signal,
      }),
  });

export type Otherwise = { house: HouseOverrides; withoutMoves: boolean };

export const usePlanBeside = (view: PieceView, other: Otherwise | null) =>
  useQuery({
    queryKey: ["beside", view.id, view.revision, other],
    enabled: other !== null,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) =>
      post("/api/pieces/{key}/beside", {
        params: { path: { key: view.id } },
        body: { house: other?.house ?? {}, without_moves: other?.withoutMoves ?? false },
        signal,
      }),
  });

export const useTables = () =>
  useQuery({
    queryKey: ["tables"],
    queryFn: () => get("/api/tables"),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What each rule says in the small piece in which it speaks. */
export const useRulesSpeaking = () =>
  useQuery({
    queryKey: ["rules"],
    queryFn: ({ signal }) => get("/api/rules", { signal }),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const useBench = () => useQuery({ queryKey: ["bench"], queryFn: () => get("/api/bench") });

export const useRail = () =>
  useQuery({
    queryKey: ["rail"],
    queryFn: () => get("/api/rail"),
    refetchInterval: 5_000,
  });

export const useRun = (key: number) =>
  useQuery({
    queryKey: ["run", key],
    queryFn: () => get("/api/runs/{key}", { params: { path: { key } } }),
  });

export const useLog = (asked: AskedOfLog) =>
  useQuery({
    queryKey: ["log", asked],
    queryFn: ({ signal }) => get("/api/log", { params: { query: asked }, signal }),
    placeholderData: keepPreviousData,
  });

/** The sums of what is asked of the log. */
export const useLogSums = (asked: AskedOfLog) =>
  useQuery({
    queryKey: ["log", "sums", asked],
    queryFn: ({ signal }) => get("/api/log/sums", { params: { query: asked }, signal }),
    placeholderData: keepPreviousData,
  });

/** By what the log can be asked, and what of each is in it. */
export const useLogChoices = () =>
  useQuery({ queryKey: ["log", "choices"], queryFn: () => get("/api/log/choices") });

export const beginPiece = (name: string) => post("/api/pieces", { body: { name } });

export const beginPieceFrom = (document: Record<string, unknown>) =>
  post("/api/pieces", { body: { document } });

export const revisePiece = (at: PieceView, document: PieceDocument, what: string) =>
  put("/api/pieces/{key}", {
    params: { path: { key: at.id } },
    body: { revision: at.revision, document: document as unknown as Record<string, unknown>, what },
  });

export const undoPiece = (at: PieceView) =>
  post("/api/pieces/{key}/undo", {
    params: { path: { key: at.id } },
    body: { revision: at.revision },
  });

export const redoPiece = (at: PieceView) =>
  post("/api/pieces/{key}/redo", {
    params: { path: { key: at.id } },
    body: { revision: at.revision },
  });

export const putPieceAway = (key: number, away: boolean) =>
  post("/api/pieces/{key}/away", { params: { path: { key } }, body: { away } });

export const startRun = (piece: number, stops: Caution[] = []) =>
  post("/api/runs", { body: { piece, confirmed: stops.map(({ code, step }) => ({ code, step })) } });

/** Stop a run that cannot be read: any other is stopped by what happens in it. */
export const stopRun = (run: Pick<RunView, "id" | "position">) =>
  post("/api/runs/{key}/stop", { params: { path: { key: run.id } }, body: { at: run.position } });

/** The photographs of a run. */
export const usePhotos = (key: number) =>
  useQuery({
    queryKey: ["photos", key],
    queryFn: () => get("/api/runs/{key}/photos", { params: { path: { key } } }),
  });

export const keepPhoto = (key: number, turn: string, image: string) =>
  post("/api/runs/{key}/photos", { params: { path: { key } }, body: { turn, image } });

export const takePhotoAway = (key: number) => remove("/api/photos/{key}", { params: { path: { key } } });

/** Nothing is otherwise than a run has it. */
export const AS_IT_RAN: RestOtherwise = { open: [], made: {}, lengths_mm: {}, anew: [], ran_out: [] };

/** What is left of a run, planned from the piece as it was made, with what is otherwise. */
export const useRest = (key: number, otherwise: RestOtherwise, asked: boolean) =>
  useQuery({
    queryKey: ["rest", key, otherwise],
    enabled: asked,
    gcTime: 0,
    staleTime: 0,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      post("/api/runs/{key}/rest", { params: { path: { key } }, body: otherwise, signal }),
  });

/** Go on by the plan of what is left: the run is stopped, and another goes on from it. */
export const goOnFrom = (key: number, turn: string, otherwise: RestOtherwise, stops: Caution[]) =>
  post("/api/runs/{key}/go-on", {
    params: { path: { key } },
    body: { turn, otherwise, confirmed: stops.map(({ code, step }) => ({ code, step })) },
  });

/** Begin a piece from what a run has made so far. */
export const beginFromRun = (key: number, otherwise = AS_IT_RAN, name = "") =>
  post("/api/runs/{key}/piece", { params: { path: { key } }, body: { otherwise, name } });

/** The finished findings on the shelf. */
export const useFindings = (asked = true) =>
  useQuery({ queryKey: ["findings"], enabled: asked, queryFn: () => get("/api/findings") });

export const putOnShelf = (run: number, name: string, left: number) =>
  post("/api/findings", { body: { run, name, left } });

export const countFinding = (at: FindingView, left: number) =>
  post("/api/findings/{key}/left", { params: { path: { key: at.id } }, body: { was: at.left, left } });

export const takeFinding = (finding: number, at: PieceView, number: number) =>
  post("/api/findings/{key}/take", {
    params: { path: { key: finding } },
    body: { piece: at.id, revision: at.revision, number },
  });

export const takeFindingAway = (key: number) => remove("/api/findings/{key}", { params: { path: { key } } });

/** The run that a run goes on from, and the one that went on from it. */
export const useKin = (key: number) =>
  useQuery({
    queryKey: ["kin", key],
    queryFn: () => get("/api/runs/{key}/kin", { params: { path: { key } } }),
  });

/** Take a run in from a file. */
export const takeRunIn = (run: RunFile) => post("/api/runs/file", { body: run });

/** Take runs of a table of outcomes in, as many as the server takes at once. */
export const takeTableIn = (text: string, skip: number) => post("/api/runs/table", { body: { text, skip } });

/** How the pot was used since it was mixed. */
export const usePot = () => useQuery({ queryKey: ["pot"], queryFn: () => get("/api/pot") });

/** What the log knows of how long work takes. */
export const useLoggedMinutes = () =>
  useQuery({ queryKey: ["log", "minutes"], queryFn: () => get("/api/log/minutes") });

export const useSizes = () =>
  useQuery({
    queryKey: ["sizes"],
    queryFn: () => get("/api/sizes"),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const askSize = (name: string, typed: Record<string, unknown>) =>
  post("/api/sizes/{name}", { params: { path: { name } }, body: { typed } });

export const keepSize = (
  name: string,
  typed: Record<string, unknown>,
  piece: number,
  kept_as: "part" | "cut",
  called: string,
) =>
  post("/api/sizes/{name}/keep", {
    params: { path: { name } },
    body: { typed, piece, kept_as, name: called },
  });

/** The cut and solder list of a piece as it stands at a revision. */
export const useCutting = (key: number, revision: number) =>
  useQuery({
    queryKey: ["cutting", key, revision],
    queryFn: () => get("/api/pieces/{key}/cutting", { params: { path: { key } } }),
    placeholderData: (before) => before,
  });

export const setBench = (revision: number, house: HouseOverrides, bench: Bench) =>
  put("/api/bench", {
    body: {
      revision,
      house: house as unknown as Record<string, unknown>,
      bench: bench as unknown as Record<string, unknown>,
    },
  });

export const readOutline = (name: string, text: string, unit: DrawnUnit | null) =>
  post("/api/outline", { body: { name, text, unit } });

export const useMakings = () => useQuery({ queryKey: ["makings"], queryFn: () => get("/api/makings") });

export const useMaking = (key: number) =>
  useQuery({
    queryKey: ["making", key],
    queryFn: () => get("/api/makings/{key}", { params: { path: { key } } }),
  });

export const beginMaking = (typed: Record<string, unknown>) =>
  post("/api/makings", { body: { typed, title: "" } });

export const markMaking = (making: MakingView, done: number) =>
  post("/api/makings/{key}/marks", {
    params: { path: { key: making.id } },
    body: { at: making.done, done },
  });

export const putMakingAway = (key: number, away: boolean) =>
  post("/api/makings/{key}/away", { params: { path: { key } }, body: { away } });

export const useStarts = () =>
  useQuery({
    queryKey: ["starts"],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => get("/api/starts"),
  });

/** What a start makes of what was typed so far, with its plan or, sooner, without; the answer before it stays until the new one is there. */
export const useStartTyped = (name: string, typed: Record<string, unknown>, plan: boolean, enabled = true) =>
  useQuery({
    queryKey: ["starts", name, typed, plan],
    enabled,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      post("/api/starts/{name}/typed", { params: { path: { name } }, body: { typed, plan }, signal }),
  });

export const beginFromStart = (name: string, typed: Record<string, unknown>) =>
  post("/api/starts/{name}/begin", { params: { path: { name } }, body: { typed } });

/** Lines as the core reads them, one after another. */
export type LinesAsked = { lines: string[]; last?: Part | null; base?: Part | null; taken?: string[] };
export const readLines = (asked: LinesAsked, signal?: AbortSignal) =>
  post("/api/lines", { body: { taken: [], ...asked }, signal });

export const writeLines = (parts: Part[]) => post("/api/lines/of", { body: { parts } });

export const proposeJoin = (document: PieceDocument, a: string, b: string) =>
  post("/api/proposal", { body: { document: { ...document }, a, b } });

/** A piece file as it would be begun, before it is. */
export const lookAtPiece = (document: Record<string, unknown>) => post("/api/look", { body: { document } });

export type BendName = "hook" | "s-bend" | "zigzag" | "oval" | "spiral";
export const bendForm = (form: Extract<Form, { kind: "wire" | "strip" }>, bend: BendName) =>
  post("/api/bend", { body: { form, bend } });
