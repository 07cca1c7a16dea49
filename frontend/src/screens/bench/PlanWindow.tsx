/** The plan alone, in a window that follows the bench of its match. */
import { useEffect, useRef, useState } from "react";
import { useParams } from "react-router";

import { useTheme } from "../../settings";
import { TableDrawing, planRatio } from "../../table/TableDrawing";
import { channelOf, type Done, type Shown } from "./model/planWindow";
import { Legend } from "./panels/Legend";
import { Pane } from "./panels/Pane";

export function PlanWindow() {
  const { id = "" } = useParams();
  useTheme();
  const [shown, setShown] = useState<Shown | null>(null);
  const channel = useRef<BroadcastChannel | null>(null);
  const tell = (done: Done) => {
    channel.current?.postMessage(done);
  };
  useEffect(() => {
    const own = channelOf(id);
    channel.current = own;
    const say = (done: Done) => {
      own.postMessage(done);
    };
    own.onmessage = ({ data }: MessageEvent<Shown | string>) => {
      if (typeof data === "string") say({ did: "here" });
      else setShown(data);
    };
    say({ did: "here" });
    const press = ({ key, code, shiftKey, ctrlKey, metaKey, altKey }: KeyboardEvent) => {
      if (!ctrlKey && !metaKey && !altKey && key !== "Tab") say({ did: "key", key, code, shiftKey });
    };
    const leave = () => {
      say({ did: "gone" });
    };
    window.addEventListener("keydown", press);
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("keydown", press);
      window.removeEventListener("pagehide", leave);
      own.close();
    };
  }, [id]);
  useEffect(() => {
    if (shown) document.title = `Plan: ${shown.title}`;
  }, [shown]);
  if (!shown)
    return (
      <main className="p-6">
        <h1 className="text-xl">The plan in its own window</h1>
        <p>It follows the bench of this match: open that in another window of this browser.</p>
      </main>
    );
  return (
    <main className="flex h-dvh flex-col p-1">
      <h1 className="sr-only">{shown.title}</h1>
      <Pane
        name="Plan"
        ratio={planRatio(shown.table)}
        className="flex-1"
        below={<Legend shapes={shown.shapes} />}
      >
        <TableDrawing
          {...shown}
          onPoint={(at) => {
            tell({ did: "point", at });
          }}
          onPen={
            shown.inking
              ? (at, how) => {
                  tell({ did: "pen", at, how });
                }
              : undefined
          }
          onDrag={(ball, at, done) => {
            tell({ did: "drag", ball, at, done });
          }}
          onBall={(ball) => {
            tell({ did: "ball", ball });
          }}
        />
      </Pane>
    </main>
  );
}
