/** The match plays itself: each shot's still picture, then the shot, slow at contact, then the next. */
import { useEffect, useEffectEvent } from "react";

import { say, useBench, type Watching } from "./state";
import type { Workbench } from "./useWorkbench";
import { HALT, ends, goesOn, legsOf, paceAt } from "./watching";

export function useWatching(
  { game, recordingIndex, player, video }: Workbench,
  show: (shot: string) => void,
) {
  const watching = useBench((state) => state.watching);
  const legs = legsOf(game, recordingIndex);
  const leg = watching ? legs[watching.at] : undefined;
  const phase = watching?.phase;
  const to = (next: Partial<Watching> | null) => {
    useBench.setState((state) => ({
      watching: next && state.watching ? { ...state.watching, ...next } : null,
    }));
  };
  const halt = useEffectEvent(() => {
    if (!leg) return;
    show(leg.shot);
    player.seek(leg.start);
  });
  const run = useEffectEvent(() => {
    if (leg && video && (video.currentTime < goesOn(leg) || video.currentTime > ends(leg)))
      player.from(goesOn(leg));
    else player.from(null);
  });
  /** After each picture: how fast, and whether the shot is over. */
  const look = useEffectEvent(() => {
    if (!leg || !video || !watching) return;
    player.pace(paceAt(leg, video.currentTime));
    if (video.currentTime < ends(leg) && !video.ended) return;
    if (watching.at + 1 < legs.length) to({ at: watching.at + 1, phase: "halts" });
    else {
      to(null);
      say("That was the last shot that has a moment in this recording.");
    }
  });
  const goOn = useEffectEvent(() => {
    to({ phase: "runs" });
  });
  const stop = useEffectEvent(() => {
    player.stop();
  });
  useEffect(() => {
    if (phase === undefined) return;
    if (phase !== "runs") stop();
    if (phase === "halts") {
      halt();
      const timer = setTimeout(goOn, HALT * 1000);
      return () => {
        clearTimeout(timer);
      };
    }
    if (phase === "stopped") return;
    run();
    let handle = requestAnimationFrame(function each() {
      look();
      handle = requestAnimationFrame(each);
    });
    return () => {
      cancelAnimationFrame(handle);
      stop();
    };
  }, [phase, leg?.shot]);
}
