/** The plan in a window of its own, for a second screen: it shows what the bench has, and hands back what is done there. */
import { useEffect, useEffectEvent, useRef } from "react";

import type { Place } from "../../../api/types";
import type { Stroke } from "../../../table/TableDrawing";
import type { Actions } from "../actions";
import { drawnOf, type DrawnPlan } from "./drawnPlan";
import { useBench } from "./state";
import type { Workbench } from "./useWorkbench";

/** What the other window draws. */
export interface Shown extends DrawnPlan {
  title: string;
  inking: boolean;
}

/** What was done there. */
export type Done =
  | { did: "here" | "gone" }
  | { did: "point"; at: Place }
  | { did: "drag"; ball: string; at: Place; done: boolean }
  | { did: "ball"; ball: string }
  | { did: "pen"; at: Place; how: Stroke }
  | { did: "key"; key: string; code: string; shiftKey: boolean };

export const channelOf = (game: string) => new BroadcastChannel(`aretane-plan-${game}`);

export function usePlanWindow(bench: Workbench, actions: Actions): void {
  const inking = useBench((state) => state.tool === "ink");
  const channel = useRef<BroadcastChannel | null>(null);
  const there = useRef(false);
  const { game, moment, entry, choosing } = bench;
  const tell = useEffectEvent(() => {
    if (there.current) channel.current?.postMessage(shownOf(bench, inking));
  });
  const answer = useEffectEvent((done: Done) => {
    switch (done.did) {
      case "here":
      case "gone":
        there.current = done.did === "here";
        tell();
        return;
      case "point":
        actions.point(done.at, "drawing");
        return;
      case "drag":
        actions.place(done.ball, done.at, done.done, "drawing");
        return;
      case "ball":
        actions.chooseBall(done.ball);
        return;
      case "pen":
        actions.stroke(done.at, done.how);
        return;
      case "key":
        document.body.dispatchEvent(new KeyboardEvent("keydown", { ...done, bubbles: true }));
    }
  });
  useEffect(() => {
    const own = channelOf(game.id);
    channel.current = own;
    own.onmessage = ({ data }: MessageEvent<Done>) => {
      answer(data);
    };
    own.postMessage("is anybody there");
    return () => {
      own.close();
    };
  }, [game.id]);
  useEffect(() => {
    tell();
  }, [bench.shown, bench.shapes, bench.chosen, bench.doubts, bench.cloud, inking, moment, entry, choosing]);
}

function shownOf(bench: Workbench, inking: boolean): Shown {
  return { title: String(bench.game.header.title ?? "Match"), inking, ...drawnOf(bench) };
}
