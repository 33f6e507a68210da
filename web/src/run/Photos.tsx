/** The photographs of a run: taken at the bench, made small on the device, kept with the step at which they were taken. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { keepPhoto, takePhotoAway, usePhotos } from "../api/queries";
import type { PhotoView } from "../api/types";
import { Button } from "../parts/Button";
import { FaultList } from "../parts/FaultList";
import { Closing, Panel } from "../parts/Panel";
import { imageOf } from "./shrink";

export type PhotosProps = { run: number; turn: string; className?: string };

/** Photographs, and one more: by the camera where the device has one. */
export function Photos({ run, turn, className = "" }: PhotosProps) {
  const cache = useQueryClient();
  const photos = usePhotos(run).data ?? [];
  const field = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const [error, setError] = useState<unknown>(null);
  const changed = () => cache.invalidateQueries({ queryKey: ["photos", run] });
  const attempt = async (work: () => Promise<unknown>) => {
    setBusy(true);
    setError(null);
    try {
      await work();
      await changed();
    } catch (problem) {
      setError(problem);
    } finally {
      setBusy(false);
    }
  };
  const keep = (files: File[]) =>
    attempt(async () => {
      for (const file of files) await keepPhoto(run, turn, await imageOf(file));
    });
  return (
    <section aria-label="Photographs" className={className}>
      <div className="flex flex-wrap items-center gap-3">
        {photos.map((photo) => (
          <Thumb key={photo.id} photo={photo} onAway={() => void attempt(() => takePhotoAway(photo.id))} />
        ))}
        <Button className="min-h-16 px-6 text-[18px]" disabled={busy} onClick={() => field.current?.click()}>
          {busy ? "Keeping it …" : photos.length === 0 ? "Add a photograph" : "Another photograph"}
        </Button>
        <input
          ref={field}
          type="file"
          accept="image/*"
          multiple
          aria-label="A photograph"
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const files = [...(event.target.files ?? [])];
            event.target.value = "";
            if (files.length > 0) void keep(files);
          }}
        />
      </div>
      <FaultList error={error} />
    </section>
  );
}

function Thumb({ photo, onAway }: { photo: PhotoView; onAway: () => void }) {
  const [open, setOpen] = useState(false);
  const at = new Date(photo.added_at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
  return (
    <Panel
      title={<span className="text-[17px] font-normal">Taken {at}</span>}
      trigger={
        <button type="button" className="h-16 overflow-hidden rounded border border-hair">
          <img
            src={`/api/photos/${String(photo.id)}.jpg?small=true`}
            alt={`Taken ${at}`}
            className="h-full"
          />
        </button>
      }
      width="own"
      open={open}
      onOpen={setOpen}
      foot={
        <>
          <Button
            look="bare"
            onClick={() => {
              setOpen(false);
              onAway();
            }}
          >
            Take it away
          </Button>
          <Closing>
            <Button>Close</Button>
          </Closing>
        </>
      }
    >
      <img
        src={`/api/photos/${String(photo.id)}.jpg`}
        alt={`Taken ${at}`}
        className="mt-2 max-h-[72vh] max-w-full"
      />
    </Panel>
  );
}
