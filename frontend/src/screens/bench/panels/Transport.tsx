/** Under the picture: which frame is shown, steps, speed, the shot's time marks. */
import { ChevronLeft, ChevronRight, Pause, Play, Repeat, SkipBack, SkipForward } from "lucide-react";

import type { Recording, ShotDocument } from "../../../api/types";
import { time } from "../../../words";
import type { Player } from "../model/usePlayer";

interface Props {
  player: Player;
  recording: Recording;
  document: ShotDocument;
  looping: boolean;
  onPlay: () => void;
  onLoop: () => void;
  onMark: (which: "start" | "contact" | "still") => void;
}

export function Transport({ player, recording, document, looping, onPlay, onLoop, onMark }: Props) {
  const marks = document.time ?? {};
  return (
    <div
      className="flex flex-wrap items-center gap-x-1 gap-y-1 border-t border-base-300 px-2 py-1"
      data-testid="transport"
      data-frame={player.frame}
    >
      <input
        type="range"
        className="range range-xs w-full"
        min={0}
        max={Math.max(0, player.frames - 1)}
        value={player.frame}
        aria-label="Frame"
        onChange={(event) => {
          player.step(Number(event.target.value) - player.frame);
        }}
      />
      <Button
        label="A second back"
        onClick={() => {
          player.jump(-1);
        }}
      >
        <SkipBack size={14} />
      </Button>
      <Button
        label="One picture back"
        onClick={() => {
          player.step(-1);
        }}
      >
        <ChevronLeft size={14} />
      </Button>
      <Button label={player.playing ? "Pause" : "Play"} onClick={onPlay}>
        {player.playing ? <Pause size={14} /> : <Play size={14} />}
      </Button>
      <Button
        label="One picture on"
        onClick={() => {
          player.step(1);
        }}
      >
        <ChevronRight size={14} />
      </Button>
      <Button
        label="A second on"
        onClick={() => {
          player.jump(1);
        }}
      >
        <SkipForward size={14} />
      </Button>
      <Button label="Loop this shot" onClick={onLoop} pressed={looping}>
        <Repeat size={14} />
      </Button>
      <span>{player.rate === 1 ? "" : `${player.rate} ×`}</span>
      <span className="ml-auto whitespace-nowrap" data-testid="frame-label">
        {time(player.time)} · {player.frame + 1}/{player.frames}
      </span>
      <span className="flex gap-1">
        {(["start", "contact", "still"] as const).map((which) => (
          <button
            key={which}
            className="chip !px-1"
            aria-pressed={marks[which] != null}
            onClick={() => {
              onMark(which);
            }}
            title={marks[which] == null ? "not marked" : time(marks[which])}
          >
            {which}
          </button>
        ))}
      </span>
      {recording.probe.sparse && (
        <span className="w-full text-warning">
          One picture every {recording.probe.sparse.toFixed(1)} s: layouts only.
        </span>
      )}
    </div>
  );
}

function Button({
  label,
  onClick,
  children,
  pressed,
}: {
  label: string;
  onClick: () => void;
  children: React.ReactNode;
  pressed?: boolean;
}) {
  return (
    <button
      className="btn btn-ghost btn-xs btn-square"
      aria-label={label}
      aria-pressed={pressed}
      title={label}
      onClick={onClick}
    >
      {children}
    </button>
  );
}
