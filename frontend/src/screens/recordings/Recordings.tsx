/** The club's recordings: add one (with progress and cancel), choose one, see what is known of it. */
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { answered, api } from "../../api/client";
import { useRecordings } from "../../api/queries";
import type { Recording } from "../../api/types";
import { uploadRecording } from "../../api/upload";
import { Problem } from "../../parts/Problem";
import { percent, time } from "../../words";

export function Recordings({ onChoose }: { onChoose?: (recording: Recording) => void }) {
  const list = useRecordings();
  const queries = useQueryClient();
  const [problem, setProblem] = useState<unknown>(null);
  const remove = async (recording: Recording) => {
    if (!confirm(`Remove the recording “${recording.name}”? Matches keep their facts but lose the picture.`))
      return;
    await answered(
      api.DELETE("/api/recordings/{sha256}", { params: { path: { sha256: recording.sha256 } } }),
    ).catch(setProblem);
    void queries.invalidateQueries({ queryKey: ["recordings"] });
  };
  const convert = async (recording: Recording) => {
    const path = { params: { path: { sha256: recording.sha256 } } };
    await answered(api.POST("/api/recordings/{sha256}/conversion", path)).catch(setProblem);
    void queries.invalidateQueries({ queryKey: ["recordings"] });
  };
  return (
    <section aria-label="Recordings">
      <div className="mb-2 flex items-baseline justify-between">
        <h2 className="text-lg">Recordings</h2>
      </div>
      <Problem of={problem ?? list.error} />
      <ul className="divide-y divide-base-300 border-y border-base-300">
        {list.data?.recordings.map((recording) => (
          <li key={recording.sha256} className="flex items-baseline gap-3 py-2">
            <div className="min-w-0 flex-1">
              <div className="truncate font-medium">{recording.name}</div>
              <div className="text-[12px] opacity-75">
                {recording.probe.width} × {recording.probe.height}, {time(recording.probe.duration)} min,{" "}
                {recording.probe.frames} pictures
                {recording.probe.sparse ? "" : `, ${recording.probe.frame_rate.toFixed(0)} a second`},{" "}
                {recording.probe.codec}
              </div>
              {recording.probe.sparse && (
                <div className="text-warning text-[12px]">
                  One picture every {recording.probe.sparse.toFixed(1)} s: layouts can be compared, nothing
                  can be followed.
                </div>
              )}
              {recording.converted !== null && (
                <div className="flex items-center gap-2 text-[12px]">
                  Browsers cannot play {recording.probe.codec}; it is being converted.
                  <progress
                    className="progress w-24"
                    value={recording.converted}
                    max={1}
                    aria-label="Converted"
                  />
                </div>
              )}
              {recording.problem && (
                <div className="text-error text-[12px]">
                  {recording.problem}{" "}
                  <button className="chip" onClick={() => void convert(recording)}>
                    try again
                  </button>
                </div>
              )}
              {recording.seen_by && (
                <div className="text-[12px] opacity-75">May be seen by: {recording.seen_by}</div>
              )}
            </div>
            {onChoose && (
              <button
                className="btn btn-xs"
                aria-label={`Use ${recording.name}`}
                onClick={() => {
                  onChoose(recording);
                }}
              >
                Use
              </button>
            )}
            {!onChoose && (
              <button
                className="btn btn-ghost btn-xs"
                aria-label={`Remove ${recording.name}`}
                onClick={() => void remove(recording)}
              >
                Remove
              </button>
            )}
          </li>
        ))}
        {list.data?.recordings.length === 0 && <li className="py-3 opacity-75">No recording yet.</li>}
      </ul>
      <AddRecording
        onAdded={(recording) => {
          void queries.invalidateQueries({ queryKey: ["recordings"] });
          onChoose?.(recording);
        }}
      />
    </section>
  );
}

function AddRecording({ onAdded }: { onAdded: (recording: Recording) => void }) {
  const [share, setShare] = useState<number | null>(null);
  const [seenBy, setSeenBy] = useState("");
  const [problem, setProblem] = useState<unknown>(null);
  const cancel = useRef<AbortController | null>(null);
  const add = async (file: File | undefined) => {
    if (!file) return;
    cancel.current = new AbortController();
    setProblem(null);
    setShare(0);
    try {
      onAdded(await uploadRecording(file, { seenBy, signal: cancel.current.signal, onProgress: setShare }));
    } catch (failure) {
      setProblem(cancel.current.signal.aborted ? new Error("Cancelled; nothing was kept.") : failure);
    } finally {
      setShare(null);
    }
  };
  return (
    <div className="mt-3 space-y-2">
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col gap-1">
          <span className="caption">Who may see it</span>
          <input
            className="input input-sm w-56"
            value={seenBy}
            onChange={(event) => {
              setSeenBy(event.target.value);
            }}
            placeholder="the players, with consent"
          />
        </label>
        <label className="btn btn-sm">
          Add a recording
          <input
            type="file"
            className="sr-only"
            accept="video/*,.mkv,.mp4,.webm,.mov"
            disabled={share !== null}
            onChange={(event) => {
              void add(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
        </label>
      </div>
      {share !== null && (
        <div className="flex items-center gap-3" role="status">
          <progress className="progress w-64" value={share} max={1} />
          <span>{share < 1 ? percent(share) : "looking into the file"}</span>
          <button className="btn btn-xs" onClick={() => cancel.current?.abort()}>
            Cancel
          </button>
        </div>
      )}
      <Problem of={problem} />
      <p className="text-[12px] opacity-75">
        Ask everybody in the picture before recording or sharing; with minors, their parents too.
      </p>
    </div>
  );
}
