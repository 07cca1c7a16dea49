/** The work bench: picture, plan, strip and entry together, driven from the keyboard. */
import { useEffect, useMemo, useRef, useState } from "react";
import { useParams, useSearchParams } from "react-router";

import { useOutbox } from "../../api/outbox";
import {
  useCamera,
  useChange,
  useFrameTimes,
  useGame,
  useReading,
  useRecordings,
  useReverse,
} from "../../api/queries";
import type { Change, Game, Marks, Place, Places, Recording, ShotDocument } from "../../api/types";
import { Problem } from "../../parts/Problem";
import { TableDrawing } from "../../table/TableDrawing";
import { sigmaAt } from "../../table/camera";
import { shotShapes, zoneShapes, type Shape } from "../../table/shapes";
import { rounded, snap } from "../../table/snap";
import { INTENTS, KINDS, POCKETS, RESULTS, SOURCES } from "../../words";
import { Recordings } from "../recordings/Recordings";
import { Dialog } from "../../parts/Dialog";
import { ClashDialog, KeysDialog, OverruleDialog } from "./Dialogs";
import { EntryPanel, pushOut, withFoul } from "./EntryPanel";
import { Picture } from "./Picture";
import { ReadingPanel } from "./ReadingPanel";
import { Strip } from "./Strip";
import { ToolBar } from "./ToolBar";
import { Transport } from "./Transport";
import {
  ZONE_RADIUS, layoutAfter, logged, meant, nextBreaker, upcoming, withAfter, withBall, withResult, zoneAt,
  type Entry, type ResultId,
} from "./entry"; // prettier-ignore
import { isTyping } from "./keys";
import { firstMarks, turned, viewAt, withMarks, withMore, withView } from "./marking";
import { keepDraft, putDown, say, useBench, useDrafts, type Moment } from "./state";
import { usePlayer } from "./usePlayer";

export function Bench() {
  const { id = "" } = useParams();
  const query = useGame(id);
  if (query.error && !query.data)
    return (
      <div className="p-6">
        <Problem of={query.error} />
      </div>
    );
  if (!query.data) return <p className="p-6 opacity-70">Opening the match …</p>;
  return <OpenBench game={query.data} />;
}

function OpenBench({ game }: { game: Game }) {
  const [params, setParams] = useSearchParams();
  const { tool, moment, placing, said, keysShown } = useBench();
  const draft = useDrafts((state) => state.drafts[game.id]);
  const clash = useOutbox((state) => state.clash);
  const change = useChange(game);
  const reverse = useReverse(game.id, game.last_change);
  const [dragged, setDragged] = useState<{ ball: string; place: Place } | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [looping, setLooping] = useState(false);
  const [overruling, setOverruling] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const [draftMarks, setDraftMarks] = useState<Marks | null>(null);
  const [diamonds, setDiamonds] = useState<string | null>(null);

  // Which shot lies on the bench
  const shotId = params.get("shot");
  const found = game.racks
    .flatMap((rack, index) => rack.shots.map((shot) => ({ rack, shot, index })))
    .find((one) => one.shot.id === shotId);
  const rackIndex =
    found?.index ?? (params.has("rack") ? Number(params.get("rack")) : Math.max(0, game.racks.length - 1));
  const entry: Entry = found ? logged(found.rack, found.shot) : upcoming(game, draft);
  const { document } = entry;
  const balls = moment === "before" ? entry.before : entry.after;
  const shown: Places = dragged ? { ...balls, [dragged.ball]: dragged.place } : balls;
  const key = moment === "before" ? "layout_before" : "layout_after";

  // The recording of this shot, its camera, and the player
  const recordings = useRecordings();
  const entries = game.header.recordings ?? [];
  const recordingIndex = document.recording ?? 0;
  const linked = entries[recordingIndex];
  const recording: Recording | undefined = recordings.data?.recordings.find(
    (one) => one.sha256 === linked?.sha256,
  );
  const video = useRef<HTMLVideoElement>(null);
  const times = useFrameTimes(recording?.sha256);
  const span: [number, number] | null =
    looping && document.time?.start != null
      ? [document.time.start, document.time.still ?? document.time.start + 4]
      : null;
  const player = usePlayer(video, times.data, span);
  const view = viewAt(linked, player.time);
  const marks = draftMarks ?? (view?.camera?.marks as Marks | undefined);
  const camera = useCamera(game.header.table ?? "pool-9ft", marks, recording, view?.camera?.picture);

  // The reading of what stands before the shot
  const focus = entry.document.called ?? { ball: entry.legal[0] ?? "", pocket: null };
  const before = moment === "before" ? shown : entry.before;
  const sigma = (document.layout_before?.sigma ?? {}) as Record<string, number>;
  const first = useReading(game.header.table ?? "pool-9ft", game.header.discipline, before, focus, sigma);
  const target = meant(entry, first.data?.shots ?? []);
  const reading = useReading(
    game.header.table ?? "pool-9ft",
    game.header.discipline,
    before,
    target ?? focus,
    sigma,
  );
  const shot = reading.data?.shots.find((one) => one.ball === target?.ball && one.pocket === target?.pocket);
  const sized = chosen && document.targets?.[chosen] ? chosen : "cue";
  const targets = document.targets;
  const shapes = useMemo(() => {
    const at = target && before[target.ball];
    const drawn: Shape[] = Object.values(targets ?? {}).flatMap((one) => zoneShapes(one.zones));
    if (moment === "before" && shot && at) drawn.push(...shotShapes(game.table, before["cue"], at, shot));
    const error = found?.shot.error;
    const stop = entry.after["cue"];
    if (error && stop && error.distance > 0) {
      const to: Place = [stop[0] - error.vector[0], stop[1] - error.vector[1]];
      drawn.push({
        line: "error",
        points: [to, stop],
        label: moment === "after" ? `${(error.distance * 100).toFixed(0)} cm` : undefined,
      });
    }
    const route = (document.route ?? []) as Place[];
    if (moment === "after" && route.length && stop) drawn.push({ line: "route", points: [...route, stop] });
    return drawn;
  }, [targets, moment, shot, target, before, game.table, found, entry.after, document.route]);

  // Writing
  const edit = (next: ShotDocument, label: string) => {
    if (found)
      return change(`${label}, rack ${found.index + 1} shot ${found.rack.shots.indexOf(found.shot) + 1}`, [
        shotChange(found.shot.id, found.rack.id, found.shot.seat, next),
      ]);
    const timed =
      recording && next.time?.start == null
        ? { ...next, recording: recordingIndex, time: { ...next.time, start: roundTime(player.time) } }
        : next;
    keepDraft(game.id, timed);
  };
  const goTo = (where: { shot?: string; rack?: number }) => {
    setParams(
      where.shot ? { shot: where.shot } : where.rack !== undefined ? { rack: String(where.rack) } : {},
      { replace: true },
    );
    putDown();
    setChosen(null);
    useBench.setState({ moment: "before" });
    const next = game.racks.flatMap((rack) => rack.shots).find((one) => one.id === where.shot);
    if (next?.document.time?.start != null) player.seek(next.document.time.start);
  };
  const log = (logging: ShotDocument) => {
    const rack = entry.rack;
    const rackId = rack?.id ?? crypto.randomUUID();
    const changes: Change[] = [];
    if (!rack) {
      const last = game.racks[game.racks.length - 1];
      changes.push({
        kind: "rack",
        id: rackId,
        parent: game.id,
        seat: (last?.seat ?? -1) + 1,
        document: { breaker: nextBreaker(game) },
      });
    }
    const seat = (rack?.shots[rack.shots.length - 1]?.seat ?? -1) + 1;
    changes.push(shotChange(crypto.randomUUID(), rackId, seat, logging));
    change(
      `shot ${(rack?.shots.length ?? 0) + 1} of rack ${rack ? game.racks.indexOf(rack) + 1 : game.racks.length + 1}`,
      changes,
    );
    keepDraft(game.id, null);
    putDown();
    useBench.setState({ moment: "before" });
    setParams({}, { replace: true });
    say("Logged.");
  };
  const logEntry = () => {
    if (found) return step(1);
    if (game.winner) return say("The match is over.");
    if (
      !document.declared &&
      document.kind !== "break" &&
      document.result === undefined &&
      !document.scratch &&
      document.first_contact !== null
    )
      return say("What happened? A result key first (m made, t thick, n thin, j jaws, g no pot meant).");
    log(cleaned(document, entry));
  };
  const choice = (declared: string) => {
    log({ player: document.player, declared: declared as "accept" });
  };
  const remove = () => {
    if (found && confirm("Remove this shot from the log?")) {
      change("shot removed", [
        { kind: "shot", id: found.shot.id, parent: found.rack.id, seat: found.shot.seat, document: null },
      ]);
      goTo({ rack: found.index });
    }
  };
  const step = (by: number) => {
    const all = game.racks.flatMap((rack) => rack.shots);
    const at = found ? all.indexOf(found.shot) : all.length;
    const next = all[at + by];
    if (next) goTo({ shot: next.id });
    else if (by > 0) goTo({});
  };

  // Results, balls, zone
  const place = (ball: string, wanted: Place, done: boolean, from: "picture" | "drawing") => {
    const { place: at, said: what } = snap(game.table, balls, ball, wanted);
    say(what);
    if (!done) return setDragged({ ball, place: at });
    setDragged(null);
    const known = from === "picture" && camera.data ? sigmaAt(camera.data, at) : null;
    edit(withBall(document, key, balls, ball, rounded(at), known), `${ball} placed`);
    if (placing === ball)
      useBench.setState({
        placing: nextToPlace(game, entry, { ...balls, [ball]: at }, moment, document),
        ...(moment === "after" ? afterPlacing(document, ball) : {}),
      });
  };
  const point = (at: Place, from: "picture" | "drawing") => {
    if (tool === "place" && placing) return place(placing, at, true, from);
    if (tool === "zone") {
      const ball = placing ?? "cue";
      const radius = targets?.[ball]?.zones?.at(-1)?.radius ?? ZONE_RADIUS;
      edit(withZone(document, ball, at, radius), "target zone");
      return putDown();
    }
    if (tool === "route") {
      edit({ ...document, route: [rounded(at)] }, "last leg");
      return putDown();
    }
    setChosen(null);
  };
  const chooseBall = (ball: string) => {
    setChosen(ball);
    if (ball !== "cue" && moment === "before" && !found)
      edit({ ...document, called: { ball, pocket: null } }, "ball meant");
  };
  const result = (what: ResultId) => {
    const next = withResult(entry, what, target);
    edit(next, what.replace("-", " "));
    const toPlace =
      document.kind !== "break" &&
      Object.keys(entry.before).length > 0 &&
      !next.layout_after?.balls?.["cue"] &&
      !next.scratch;
    useBench.setState({ moment: "after", tool: toPlace ? "place" : "look", placing: toPlace ? "cue" : null });
    say(toPlace ? "Click where the cue ball stopped, then Enter." : "Enter logs it.");
  };
  const scratch = () => {
    const next = {
      ...document,
      scratch: !document.scratch,
      result: document.result ?? (document.kind === "break" ? undefined : "played"),
    } as ShotDocument;
    edit(
      withAfter(
        next,
        layoutAfter(
          entry,
          (next.potted ?? []).map((one) => one.ball),
          Boolean(next.scratch),
        ),
      ),
      "scratch",
    );
    putDown();
  };
  const pocket = (name: string) => {
    if (target)
      edit({ ...document, called: { ball: target.ball, pocket: name as "head-left" } }, "pocket meant");
  };
  const resize = (by: number) => {
    const last = targets?.[sized]?.zones?.at(-1);
    if (last?.centre && last.radius !== undefined)
      edit(
        withZone(document, sized, last.centre as Place, Math.max(0.02, Math.min(0.6, last.radius + by))),
        "zone's size",
      );
  };
  /** Turn to before or after the shot; a logged shot's picture goes there too. */
  const look = (to: Moment) => {
    useBench.setState({ moment: to });
    const time = to === "before" ? document.time?.start : document.time?.still;
    if (found && time != null) player.seek(time);
  };
  const startPlacing = () => {
    say(null);
    useBench.setState({ tool: "place", placing: nextToPlace(game, entry, balls, moment, document) });
  };

  // The table in the picture
  const saveMarks = (next: Marks) => {
    setDraftMarks(next);
    change("table marked", [
      headerChange(game, { recordings: withMarks(entries, recordingIndex, player.time, next) }),
    ]);
  };
  const startMarking = () => {
    if (!recording) return;
    if (tool === "mark") {
      setDraftMarks(null);
      return putDown();
    }
    setDraftMarks(marks ?? firstMarks(recording));
    useBench.setState({ tool: "mark" });
    say("Drag each corner to where the nose lines of two rails meet.");
  };
  const link = (one: Recording) => {
    setChoosing(false);
    change("recording chosen", [
      headerChange(game, {
        recordings: [
          ...entries,
          { sha256: one.sha256, name: one.name, views: [{ from: 0, to: null, camera: null }] },
        ],
      }),
    ]);
  };

  // Keys
  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    const pressed = event.key;
    const command =
      commands()[pressed] ??
      (/^[1-9]$/.test(pressed)
        ? () => {
            chooseBall(pressed);
          }
        : undefined);
    if (!command) return;
    event.preventDefault();
    command(event.shiftKey);
  };
  const commands = (): Record<string, (shift: boolean) => unknown> => ({
    ...Object.fromEntries(
      POCKETS.map((one) => [
        one.key,
        () => {
          pocket(one.name);
        },
      ]),
    ),
    ...Object.fromEntries(
      RESULTS.map((one) => [
        one.key,
        () => {
          result(one.id);
        },
      ]),
    ),
    k: () => {
      edit({ ...document, kind: following(KINDS, document.kind) }, "kind");
    },
    i: () => {
      edit({ ...document, intent: following(INTENTS, document.intent) }, "intent");
    },
    o: () => {
      edit(
        { ...document, intent_source: following(SOURCES, document.intent_source) },
        "source of the intent",
      );
    },
    x: () =>
      entry.rack?.next_up?.choices.includes("push-out") &&
      edit({ ...document, ...pushOut(document) }, "push-out"),
    c: scratch,
    f: () => {
      edit({ ...document, ...withFoul(document, "no-rail", entry.legal) }, "no rail");
    },
    Enter: logEntry,
    p: startPlacing,
    z: () => {
      useBench.setState({ tool: "zone", placing: "cue" });
      say("Click the middle of the target zone.");
    },
    Z: () => {
      const ball = chosen && chosen !== "cue" ? chosen : target?.ball;
      if (!ball) return;
      useBench.setState({ tool: "zone", placing: ball });
      say(`Click the middle of where the ${ball} should go.`);
    },
    "-": () => {
      resize(-0.02);
    },
    "+": () => {
      resize(0.02);
    },
    r: () => {
      useBench.setState({ tool: "route", moment: "after" });
      say("Click where the cue ball's last leg began.");
    },
    b: () => {
      look(moment === "before" ? "after" : "before");
    },
    y: () => {
      setDiamonds("");
    },
    Delete: () => chosen && edit(withBall(document, key, balls, chosen, null, null), `${chosen} taken off`),
    Escape: () => {
      putDown();
      setDraftMarks(null);
      say(null);
    },
    " ": player.toggle,
    ArrowRight: (shift) => {
      if (shift) player.jump(1);
      else player.step(1);
    },
    ArrowLeft: (shift) => {
      if (shift) player.jump(-1);
      else player.step(-1);
    },
    "<": () => {
      player.faster(-1);
    },
    ">": () => {
      player.faster(1);
    },
    v: () => {
      setLooping(!looping);
    },
    "[": () => {
      markTime("start");
    },
    "\\": () => {
      markTime("contact");
    },
    "]": () => {
      markTime("still");
    },
    h: () => {
      if (tool === "mark" && marks) saveMarks(turned(marks));
    },
    ArrowDown: () => {
      step(1);
    },
    ArrowUp: () => {
      step(-1);
    },
    ".": () => {
      step(1);
    },
    ",": () => {
      step(-1);
    },
    u: () => {
      reverse.mutate("undo");
    },
    U: () => {
      reverse.mutate("redo");
    },
    "?": () => {
      useBench.setState({ keysShown: true });
    },
  });
  const markTime = (which: "start" | "contact" | "still") => {
    edit(
      { ...document, recording: recordingIndex, time: { ...document.time, [which]: roundTime(player.time) } },
      `${which} marked`,
    );
  };
  const listener = useRef(onKey);
  useEffect(() => {
    listener.current = onKey;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      listener.current(event);
    };
    // A button that was clicked gives the keyboard back to the bench; one reached with Tab keeps it.
    const release = (event: MouseEvent) => {
      if (event.detail > 0) (event.target as HTMLElement).closest<HTMLElement>("button, a")?.blur();
    };
    window.addEventListener("keydown", listen);
    window.addEventListener("click", release);
    return () => {
      window.removeEventListener("keydown", listen);
      window.removeEventListener("click", release);
      putDown();
      say(null);
    };
  }, []);
  // A bench that is opened at a shot shows its still picture.
  const start = document.time?.start;
  const ready = times.data !== undefined;
  useEffect(() => {
    if (ready && found && start != null) player.seek(start);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ready]);

  const trouble = game.trouble.find((one) => one.rack === rackIndex);
  const names = game.header.players as Record<string, { name?: string }> | undefined;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-3 py-1.5">
        <h1 className="truncate text-[17px]">{String(game.header.title ?? "Match")}</h1>
        <span data-testid="score">
          {names?.["A"]?.name ?? "A"} <b>{game.score["A"]}</b> : <b>{game.score["B"]}</b>{" "}
          {names?.["B"]?.name ?? "B"}
          <span className="opacity-70">
            {" "}
            · race to {game.header.race_to ?? "–"}
            {game.winner ? ` · ${names?.[game.winner]?.name ?? game.winner} won` : ""}
          </span>
        </span>
        <ToolBar
          tool={tool}
          moment={moment}
          placing={placing}
          recording={recording}
          marking={tool === "mark"}
          camera={camera.data}
          onLook={look}
          onPlace={startPlacing}
          onMark={startMarking}
          onUndo={() => {
            reverse.mutate("undo");
          }}
          onRedo={() => {
            reverse.mutate("redo");
          }}
          onMore={(sort) => {
            if (marks && camera.data) saveMarks(withMore(marks, camera.data, game.table, sort));
          }}
          onTurn={() => {
            if (marks) saveMarks(turned(marks));
          }}
          onView={() => {
            change("new view", [
              headerChange(game, { recordings: withView(entries, recordingIndex, player.time) }),
            ]);
            setDraftMarks(null);
          }}
          onKeys={() => {
            useBench.setState({ keysShown: true });
          }}
        />
      </div>
      <p
        role="status"
        aria-live="polite"
        className="min-h-5 px-3 text-[12px] text-secondary"
        data-testid="said"
      >
        {reverse.error ? (
          <span className="text-error">{reverse.error.message}</span>
        ) : camera.error && marks ? (
          <span className="text-error">{camera.error.message}</span>
        ) : (
          (said ?? hint(tool, placing))
        )}
      </p>
      {trouble && (
        <p role="alert" className="mx-3 mb-1 border-l-2 border-error pl-2 text-error">
          Rack {trouble.rack + 1}, shot {trouble.shot + 1} cannot have happened like this: {trouble.message}.
          Correct it, or overrule it with a note.
        </p>
      )}
      <div className="grid min-h-0 items-start gap-2 px-3 lg:grid-cols-2 xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_236px]">
        <div className="sheet min-w-0">
          {recording ? (
            <>
              <Picture
                recording={recording}
                video={video}
                table={game.table}
                camera={camera.data}
                balls={shown}
                shapes={shapes}
                chosen={chosen ?? target?.ball ?? null}
                marks={tool === "mark" ? (marks ?? {}) : null}
                placing={tool !== "look"}
                onMarks={(next, done) => {
                  if (done) saveMarks(next);
                  else setDraftMarks(next);
                }}
                onPoint={(at) => {
                  point(at, "picture");
                }}
                onDrag={(ball, at, done) => {
                  place(ball, at, done, "picture");
                }}
                onBall={chooseBall}
              />
              <Transport
                player={player}
                recording={recording}
                document={document}
                looping={looping}
                onLoop={() => {
                  setLooping(!looping);
                }}
                onMark={markTime}
              />
            </>
          ) : (
            <div className="flex h-full min-h-48 flex-col items-center justify-center gap-3 p-6 text-center">
              <p>
                {linked
                  ? `The recording “${linked.name ?? "of this match"}” is not on this machine.`
                  : "No recording is linked. Everything can be logged on the plan alone."}
              </p>
              <button
                className="btn btn-sm"
                onClick={() => {
                  setChoosing(true);
                }}
              >
                Choose a recording
              </button>
            </div>
          )}
        </div>
        <div className="sheet flex min-w-0 flex-col">
          <TableDrawing
            table={game.table}
            balls={shown}
            ghostly={moment === "after" ? entry.before : {}}
            shapes={shapes}
            chosen={chosen ?? target?.ball}
            label={`Plan of the table, ${moment} the shot`}
            onPoint={(at) => {
              point(at, "drawing");
            }}
            onDrag={(ball, at, done) => {
              place(ball, at, done, "drawing");
            }}
            onBall={chooseBall}
          />
          <BallTray
            game={game}
            balls={balls}
            placing={placing}
            onPick={(ball) => {
              useBench.setState({ tool: "place", placing: ball });
            }}
          />
        </div>
        <ReadingPanel
          table={game.table}
          reading={reading.data}
          shot={shot}
          offered={target?.offered ?? false}
          error={found?.shot.error ?? null}
          others={found?.shot.object_errors ?? {}}
          problem={reading.error}
        />
      </div>
      <div className="mt-2">
        <Strip
          game={game}
          rack={rackIndex}
          shot={found?.shot.id ?? null}
          onRack={(rack) => {
            const one = game.racks[rack]?.shots[0];
            goTo(one ? { shot: one.id } : { rack });
          }}
          onShot={(one) => {
            goTo(one ? { shot: one } : {});
          }}
        />
      </div>
      <div className="p-3">
        <EntryPanel
          game={game}
          entry={entry}
          target={target}
          onEdit={edit}
          onResult={result}
          onScratch={scratch}
          onPocket={pocket}
          onChoice={choice}
          onLog={logEntry}
          onRemove={remove}
          onOverrule={() => {
            setOverruling(true);
          }}
        />
      </div>
      {keysShown && (
        <KeysDialog
          onClose={() => {
            useBench.setState({ keysShown: false });
          }}
        />
      )}
      {overruling && (
        <OverruleDialog
          document={document}
          onClose={() => {
            setOverruling(false);
          }}
          onDone={(patch) => {
            edit({ ...document, ...patch }, "overruled");
            setOverruling(false);
          }}
        />
      )}
      {choosing && (
        <Dialog
          title="Choose a recording"
          onClose={() => {
            setChoosing(false);
          }}
          wide
        >
          <Recordings onChoose={link} />
        </Dialog>
      )}
      {clash && clash.game === game.id && <ClashDialog clash={clash} />}
      {diamonds !== null && (
        <DiamondDialog
          game={game}
          onClose={() => {
            setDiamonds(null);
          }}
          onPlace={(at) => {
            setDiamonds(null);
            place("cue", at, true, "drawing");
          }}
        />
      )}
    </div>
  );
}

function BallTray({
  game,
  balls,
  placing,
  onPick,
}: {
  game: Game;
  balls: Places;
  placing: string | null;
  onPick: (ball: string) => void;
}) {
  const missing = game.balls.filter((ball) => !balls[ball]);
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-1 border-t border-base-300 px-2 py-1">
      <span className="caption mr-1">off the table</span>
      {missing.map((ball) => (
        <button
          key={ball}
          className="chip"
          aria-pressed={placing === ball}
          onClick={() => {
            onPick(ball);
          }}
        >
          {ball}
        </button>
      ))}
      {missing.length === 0 && <span className="opacity-70">none</span>}
    </div>
  );
}

function DiamondDialog({
  game,
  onPlace,
  onClose,
}: {
  game: Game;
  onPlace: (place: Place) => void;
  onClose: () => void;
}) {
  return (
    <Dialog title="Cue ball by diamonds" onClose={onClose}>
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          onPlace([
            (Number(form.get("along")) * game.table.length) / 8,
            (Number(form.get("across")) * game.table.width) / 4,
          ]);
        }}
      >
        <label className="flex flex-col gap-1">
          <span className="caption">from the head, 0 – 8</span>
          <input
            name="along"
            required
            inputMode="decimal"
            type="number"
            step="0.05"
            min="0"
            max="8"
            className="input input-sm w-28"
          />
        </label>
        <label className="flex flex-col gap-1">
          <span className="caption">from the right, 0 – 4</span>
          <input
            name="across"
            required
            inputMode="decimal"
            type="number"
            step="0.05"
            min="0"
            max="4"
            className="input input-sm w-28"
          />
        </label>
        <button className="btn btn-sm btn-primary">Place</button>
      </form>
    </Dialog>
  );
}

const roundTime = (seconds: number) => Math.round(seconds * 1000) / 1000;

const shotChange = (id: string, parent: string, seat: number, document: ShotDocument): Change => ({
  kind: "shot",
  id,
  parent,
  seat,
  document,
});

const headerChange = (game: Game, patch: Partial<Game["header"]>): Change => ({
  kind: "match",
  id: game.id,
  parent: game.id,
  seat: 0,
  document: { ...game.header, ...patch },
});

/** A document as it is logged: the layout before it only where it was placed and not just carried along. */
function cleaned(document: ShotDocument, entry: Entry): ShotDocument {
  const begins = !entry.rack || entry.rack.shots.length === 0;
  const carried = entry.rack?.next_up?.before?.balls;
  if (document.layout_before || begins || carried) return document;
  return Object.keys(entry.before).length
    ? { ...document, layout_before: { balls: entry.before } }
    : document;
}

function withZone(document: ShotDocument, ball: string, centre: Place, radius: number): ShotDocument {
  const target = document.targets?.[ball];
  const source = target?.source ?? document.intent_source ?? "inferred";
  return {
    ...document,
    targets: {
      ...document.targets,
      [ball]: { ...target, source, zones: zoneAt(rounded(centre), Math.round(radius * 1000) / 1000) },
    },
  };
}

/** The ball to place next: before the shot all that the rules still have on the table, after it those that moved. */
function nextToPlace(
  game: Game,
  entry: Entry,
  balls: Places,
  moment: string,
  document: ShotDocument,
): string | null {
  if (moment === "after") return balls["cue"] ? null : "cue";
  const gone = new Set(
    entry.rack?.shots.flatMap((shot) => shot.document.potted?.map((one) => one.ball) ?? []),
  );
  if (document.kind === "break") gone.clear();
  return game.balls.find((ball) => !balls[ball] && !gone.has(ball)) ?? null;
}

function afterPlacing(document: ShotDocument, ball: string) {
  if (ball === "cue" && document.result?.startsWith("missed") && document.called)
    say(`Drag the ${document.called.ball} to where it stopped, or Enter.`);
  else say("Enter logs it.");
  return { tool: "look" as const };
}

function following<T extends string>(options: readonly T[], now: string | null | undefined): T {
  return options[(options.indexOf(now as T) + 1) % options.length] as T;
}

function hint(tool: string, placing: string | null): string {
  if (tool === "place")
    return placing
      ? `Click the ${placing === "cue" ? "cue ball" : `${placing} ball`} in the picture or on the plan.`
      : "Every ball is placed.";
  return "";
}
