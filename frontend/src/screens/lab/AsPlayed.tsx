/** The simulated course in the picture of the recording, beside what the recording shows. */
import { useEffect, useEffectEvent, useState } from "react";

import { useCamera, useFrameTimes, useRecordings } from "../../api/queries";
import type { Game, Places, Shot } from "../../api/types";
import type { Shape } from "../../table/shapes";
import { viewAt } from "../bench/model/marking";
import { Picture } from "../bench/panels/Picture";
import { usePlayer } from "../bench/model/usePlayer";

const nothing = () => undefined;

export function AsPlayed({
  game,
  shot,
  balls,
  shapes,
  aiming,
}: {
  game: Game;
  shot: Shot;
  balls: Places;
  shapes: Shape[];
  /** Lines of aim are drawn: the picture is that before the shot. */
  aiming: boolean;
}) {
  const linked = game.header.recordings?.[shot.document.recording ?? 0];
  const recordings = useRecordings();
  const recording = recordings.data?.recordings.find((one) => one.sha256 === linked?.sha256);
  const times = useFrameTimes(recording?.sha256);
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const { start, still } = shot.document.time ?? {};
  const player = usePlayer(video, times.data, null);
  const view = viewAt(linked, start ?? 0);
  const camera = useCamera(
    game.header.table ?? "pool-9ft",
    view?.camera?.marks,
    recording,
    view?.camera?.picture,
  );
  const ready = times.data !== undefined;
  const seek = useEffectEvent(player.seek);
  const moment = aiming ? start : still;
  useEffect(() => {
    if (ready && moment != null) seek(moment);
  }, [ready, moment]);
  if (!recording || start == null) return null;
  return (
    <section aria-label="In the picture" className="sheet mx-3 mt-3 max-w-2xl min-w-0">
      <div style={{ aspectRatio: `${String(recording.probe.width)} / ${String(recording.probe.height)}` }}>
        <Picture
          recording={recording}
          video={video}
          onVideo={setVideo}
          table={game.table}
          camera={camera.data}
          balls={balls}
          shapes={shapes}
          chosen={null}
          marks={null}
          placing={false}
          onMarks={nothing}
          onPoint={nothing}
          onDrag={nothing}
          onBall={nothing}
        />
      </div>
      <div className="flex flex-wrap items-center gap-2 p-2">
        <span className="caption mr-auto">
          {aiming ? "rings: where they lie" : "rings: where the simulator lets them stop"}
        </span>
        {(
          [
            ["before", start],
            ["when all is still", still],
          ] as const
        ).map(
          ([words, at]) =>
            at != null && (
              <button
                key={words}
                className="chip"
                onClick={() => {
                  player.seek(at);
                }}
              >
                {words}
              </button>
            ),
        )}
      </div>
    </section>
  );
}
