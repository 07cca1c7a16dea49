/**
 * A video that is moved by its true frames. The file's own time stamps say where each frame lies; the
 * browser's media time says which one is shown, so the number on the screen is never a guess.
 */
import { useEffect, useRef, useState } from "react";

export const RATES = [0.1, 0.25, 0.5, 1, 2];
const LAST_ATTEMPT = 2;
const PRESENTED = 50; // milliseconds after a seek within which its picture is on the screen
const SAME = 2e-3; // seconds within which two time stamps are the same frame (WebM counts milliseconds)

/** Index of the last frame that begins at or before `time`. */
export function frameAt(times: Float64Array, time: number): number {
  let low = 0;
  let high = times.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((times[middle] ?? Infinity) <= time + SAME) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Where to seek so that frame `index` is shown: half of its duration past its start, then closer to it. */
export function seekTargets(times: Float64Array, index: number): number[] {
  const start = times[index] ?? 0;
  const end = times[index + 1] ?? start + 0.02;
  return [start + (end - start) / 2, start + 1e-3, start + (end - start) * 0.9];
}

interface Wanted {
  frame: number;
  attempt: number;
}

/** Show a frame; the browser may land beside it, so what it says decides whether to try again. */
function show(
  element: HTMLVideoElement | null,
  times: Float64Array | undefined,
  frame: number,
  attempt = 0,
): Wanted | null {
  if (!element || !times?.length) return null;
  const index = Math.max(0, Math.min(times.length - 1, frame));
  element.pause();
  element.currentTime = seekTargets(times, index)[attempt] ?? 0;
  return { frame: index, attempt };
}

/** The element is the browser's: it is told, not rendered. */
function put(element: HTMLVideoElement | null, what: { currentTime?: number; playbackRate?: number }) {
  if (element) Object.assign(element, what);
}

export interface Player {
  frame: number;
  time: number;
  frames: number;
  playing: boolean;
  rate: number;
  /** The time of the picture that is shown, or is on its way to the screen. */
  now: () => number;
  toggle: () => void;
  step: (frames: number) => void;
  jump: (seconds: number) => void;
  seek: (seconds: number) => void;
  faster: (steps: number) => void;
  /** Play from a time, or from where it is. */
  from: (seconds: number | null) => void;
  /** Stop, at the rate that is set. */
  stop: () => void;
  /** For now at so many times the true speed. */
  pace: (times: number) => void;
}

export function usePlayer(
  video: HTMLVideoElement | null,
  times: Float64Array | undefined,
  loop: [number, number] | null,
): Player {
  const [shown, setShown] = useState({ frame: 0, time: 0 });
  const [playing, setPlaying] = useState(false);
  const [rate, setRate] = useState(1);
  const wanted = useRef<Wanted | null>(null);
  const last = useRef(0);
  useEffect(() => {
    const element = video;
    if (!element || !times?.length) return;
    if (last.current > 0) wanted.current = show(element, times, last.current); // a new element, the same picture
    let handle = 0;
    let shownFrame = -1;
    /** The browser may land beside the frame that was asked for, or still show the one before: try again. */
    const settle = () => {
      const goal = wanted.current;
      if (!goal || element.seeking) return;
      if (shownFrame === goal.frame || goal.attempt >= LAST_ATTEMPT) wanted.current = null;
      else wanted.current = show(element, times, goal.frame, goal.attempt + 1);
    };
    const onFrame = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
      shownFrame = frameAt(times, mediaTime);
      last.current = shownFrame;
      setShown({ frame: shownFrame, time: mediaTime });
      handle = element.requestVideoFrameCallback(onFrame);
    };
    const onSeeked = () => setTimeout(settle, PRESENTED);
    handle = element.requestVideoFrameCallback(onFrame);
    const state = () => {
      setPlaying(!element.paused);
    };
    const played = () => {
      if (!element.paused) wanted.current = null;
      state();
    };
    element.addEventListener("seeked", onSeeked);
    element.addEventListener("play", played);
    element.addEventListener("pause", state);
    return () => {
      element.cancelVideoFrameCallback(handle);
      element.removeEventListener("seeked", onSeeked);
      element.removeEventListener("play", played);
      element.removeEventListener("pause", state);
    };
  }, [video, times]);

  useEffect(() => {
    if (loop && playing && shown.time >= loop[1]) put(video, { currentTime: loop[0] });
  }, [loop, playing, shown.time, video]);

  useEffect(() => {
    put(video, { playbackRate: rate });
  }, [rate, video, times]);

  const seekFrame = (frame: number) => {
    wanted.current = show(video, times, frame);
  };
  const base = () => wanted.current?.frame ?? shown.frame;
  return {
    ...shown,
    frames: times?.length ?? 0,
    playing,
    rate,
    now: () => (wanted.current ? (times?.[wanted.current.frame] ?? shown.time) : shown.time),
    toggle: () => {
      const element = video;
      wanted.current = null;
      if (element?.paused) void element.play().catch(() => undefined);
      else element?.pause();
    },
    from: (seconds) => {
      wanted.current = null;
      if (seconds !== null) put(video, { currentTime: seconds });
      void video?.play().catch(() => undefined);
    },
    stop: () => {
      video?.pause();
      put(video, { playbackRate: rate });
    },
    pace: (times) => {
      if (video?.playbackRate !== times) put(video, { playbackRate: times });
    },
    step: (frames) => {
      seekFrame(base() + frames);
    },
    jump: (seconds) => {
      if (times?.length) seekFrame(frameAt(times, (times[base()] ?? 0) + seconds));
    },
    seek: (seconds) => {
      if (times?.length) seekFrame(frameAt(times, seconds));
    },
    faster: (steps) => {
      setRate((old) => RATES[Math.max(0, Math.min(RATES.length - 1, RATES.indexOf(old) + steps))] ?? 1);
    },
  };
}
