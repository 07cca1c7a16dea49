/** A clock for the balls: real time, stopped at the end, or anywhere by hand. */
import { useEffect, useState } from "react";

export interface Animation {
  now: number | null;
  playing: boolean;
  toggle: () => void;
  seek: (t: number) => void;
  rest: () => void;
}

export function useAnimation(duration: number): Animation {
  const [now, setNow] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let last: number | null = null;
    const tick = (at: number) => {
      const passed = last === null ? 0 : (at - last) / 1000;
      last = at;
      setNow((before) => Math.min(duration, (before ?? 0) + passed));
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [playing, duration]);
  const over = now !== null && now >= duration;
  return {
    now,
    playing: playing && !over,
    toggle: () => {
      if (over || now === null) setNow(0);
      setPlaying(over || !playing);
    },
    seek: (t) => {
      setPlaying(false);
      setNow(t);
    },
    rest: () => {
      setPlaying(false);
      setNow(null);
    },
  };
}
