// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Refusal } from "../src/api/client";
import * as queries from "../src/api/queries";
import type { PieceDocument, PieceView } from "../src/api/types";
import { draftOf, keepDraft, letDraftGo } from "../src/document/drafts";
import { useEdits } from "../src/document/useEdits";

const PIECE = 7;
const asView = (revision: number, notes: string) =>
  ({ id: PIECE, revision, document: { name: "Reed", notes } }) as unknown as PieceView;
const noted = (notes: string) => (now: PieceDocument) => ({ ...now, notes });
const fault = (code: string) => new Refusal([{ code, path: "", value: null, rule: "no", remedy: "Wait." }]);

/** A server that answers when it is told to. */
function slowServer() {
  type Sent = {
    at: PieceView;
    document: PieceDocument;
    what: string;
    answer: (made: PieceView | Error) => void;
  };
  const sent: Sent[] = [];
  vi.spyOn(queries, "revisePiece").mockImplementation(
    (at, document, what) =>
      new Promise((resolve, reject) =>
        sent.push({
          at,
          document,
          what,
          answer: (made) => (made instanceof Error ? reject(made) : resolve(made)),
        }),
      ),
  );
  return sent;
}

function opened(revision = 1) {
  const cache = new QueryClient();
  cache.setQueryData(["piece", PIECE], asView(revision, ""));
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={cache}>{children}</QueryClientProvider>
  );
  const hook = renderHook(() => useEdits(PIECE), { wrapper });
  const shown = () => cache.getQueryData<PieceView>(["piece", PIECE]);
  return { ...hook, shown };
}

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe("edits of a piece", () => {
  it("has one request under way and one waiting, which sends what stands by then", async () => {
    const sent = slowServer();
    const { result, shown } = opened();
    for (const notes of ["a", "ab", "abc", "abcd"]) act(() => result.current.apply("notes", noted(notes)));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(shown()?.document.notes).toBe("abcd");
    for (const notes of ["abcde", "abcdef"]) act(() => result.current.apply("notes", noted(notes)));
    await act(async () => sent[0]?.answer(asView(2, sent[0].document.notes ?? "")));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.at.revision).toBe(2);
    expect(sent[1]?.document.notes).toBe("abcdef");
    await act(async () => sent[1]?.answer(asView(3, "abcdef")));
    await waitFor(() => expect(result.current.saving).toBe(false));
    expect(sent).toHaveLength(2);
    expect(shown()?.revision).toBe(3);
  });

  it("is one edit named by all that it is made of, where several changes wait; and the same one when asked again", async () => {
    const sent = slowServer();
    const { result } = opened();
    act(() => result.current.apply("metal of Collar", noted("a")));
    await waitFor(() => expect(sent).toHaveLength(1));
    act(() => result.current.apply("metal of Dome", noted("ab")));
    act(() => result.current.apply("size of Dome", noted("abc")));
    act(() => result.current.apply("metal of Dome", noted("abcd")));
    expect(draftOf(PIECE)?.what).toBe("metal of Dome, size of Dome");
    await act(async () => sent[0]?.answer(asView(2, "a")));
    await waitFor(() => expect(sent).toHaveLength(2));
    await act(async () => sent[1]?.answer(fault("unreachable")));
    await waitFor(() => expect(sent).toHaveLength(3), { timeout: 4_000 });
    expect(sent.map(({ what }) => what)).toEqual([
      "metal of Collar",
      "metal of Dome, size of Dome",
      "metal of Dome, size of Dome",
    ]);
    await act(async () => sent[2]?.answer(asView(3, "abcd")));
    await waitFor(() => expect(result.current.saving).toBe(false));
  });

  it("keeps its name when the edit before it is refused", async () => {
    const sent = slowServer();
    const { result } = opened();
    act(() => result.current.apply("metal of Collar", noted("a")));
    await waitFor(() => expect(sent).toHaveLength(1));
    act(() => result.current.apply("size of Dome", noted("ab")));
    await act(async () => sent[0]?.answer(fault("out-of-range")));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.what).toBe("size of Dome");
    await act(async () => sent[1]?.answer(asView(2, "ab")));
    await waitFor(() => expect(result.current.saving).toBe(false));
  });

  it("keeps a draft until it is saved", async () => {
    const sent = slowServer();
    const { result } = opened();
    act(() => result.current.apply("notes", noted("kept")));
    expect(draftOf(PIECE)?.document.notes).toBe("kept");
    await waitFor(() => expect(sent).toHaveLength(1));
    await act(async () => sent[0]?.answer(asView(2, "kept")));
    await waitFor(() => expect(draftOf(PIECE)).toBeNull());
  });

  it("finds what an earlier tab left, and takes it up or lets it go", async () => {
    const sent = slowServer();
    keepDraft(PIECE, {
      revision: 1,
      document: { name: "Reed", notes: "from before" } as PieceDocument,
      what: "notes",
      at: "",
    });
    const { result } = opened();
    expect(result.current.found?.document.notes).toBe("from before");
    act(() => result.current.takeUp());
    await waitFor(() => expect(sent[0]?.document.notes).toBe("from before"));
    expect(result.current.found).toBeNull();
    letDraftGo(PIECE);
    keepDraft(PIECE, {
      revision: 1,
      document: { name: "Reed", notes: "other" } as PieceDocument,
      what: "notes",
      at: "",
    });
    const again = opened();
    act(() => again.result.current.letGo());
    expect(again.result.current.found).toBeNull();
    expect(draftOf(PIECE)).toBeNull();
  });

  it("says nothing of a draft that is what stands already", () => {
    keepDraft(PIECE, {
      revision: 1,
      document: { name: "Reed", notes: "" } as PieceDocument,
      what: "notes",
      at: "",
    });
    expect(opened().result.current.found).toBeNull();
  });

  it("asks again while the server is away, and loses nothing", async () => {
    const sent = slowServer();
    const { result, shown } = opened();
    act(() => result.current.apply("notes", noted("through")));
    await waitFor(() => expect(sent).toHaveLength(1));
    await act(async () => sent[0]?.answer(fault("unreachable")));
    await waitFor(() => expect(result.current.away).toBe(true));
    expect(draftOf(PIECE)?.document.notes).toBe("through");
    await waitFor(() => expect(sent).toHaveLength(2), { timeout: 4_000 });
    await act(async () => sent[1]?.answer(asView(2, "through")));
    await waitFor(() => expect(result.current.saving).toBe(false));
    expect(shown()?.document.notes).toBe("through");
    expect(result.current.error).toBeNull();
  });

  it("tells a refusal at once, and the draft is still there", async () => {
    const sent = slowServer();
    const { result } = opened();
    act(() => result.current.apply("notes", noted("refused")));
    await waitFor(() => expect(sent).toHaveLength(1));
    await act(async () => sent[0]?.answer(fault("clash")));
    await waitFor(() => expect(result.current.error).toBeInstanceOf(Refusal));
    expect(sent).toHaveLength(1);
    expect(draftOf(PIECE)?.document.notes).toBe("refused");
  });

  it("asks before a tab with something unsaved closes", async () => {
    const sent = slowServer();
    const { result } = opened();
    const leave = () => {
      const event = new Event("beforeunload", { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect(leave()).toBe(false);
    act(() => result.current.apply("notes", noted("x")));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(leave()).toBe(true);
    await act(async () => sent[0]?.answer(asView(2, "x")));
    await waitFor(() => expect(result.current.saving).toBe(false));
    expect(leave()).toBe(false);
  });
});

describe("a draft that cannot be read", () => {
  it.each(["", "{", "5", '{"revision": "one"}', '{"revision": 1, "document": null}'])(
    "%j is none",
    (text) => {
      localStorage.setItem(`eskel-draft-${String(PIECE)}`, text);
      expect(draftOf(PIECE)).toBeNull();
    },
  );
});
