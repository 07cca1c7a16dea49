/** What is open in this state of the game: two to eight controls, each with its key. The rest lies folded. */
import type { Game, ShotDocument } from "../../../api/types";
import { choiceWords, disciplineOf, sortOf } from "../../../games/discipline";
import { POCKETS, RESULTS } from "../../../words";
import type { Actions } from "../actions";
import { freeBall, resultOf, type Entry, type Target } from "./entry";
import type { Asked } from "./state";

export interface Ask {
  id: string;
  words: string;
  key?: string;
  on?: boolean;
  run: () => void;
}

export const ANSWER_KEYS: Record<string, string> = {
  accept: "Y",
  "pass-back": "L",
  "play-again": "G",
  "re-rack": "E",
  "re-break": "O",
};
export const PLAY_FROM_HERE = "J";

export function asksOf(
  game: Game,
  entry: Entry,
  target: Target | null,
  asked: Asked | null,
  actions: Actions,
): Ask[] {
  const { document } = entry;
  if (document.hole) return [];
  const answers = entry.shot ? [] : answersOf(game, entry, actions);
  if (asked === "player") return players(game, document, actions);
  if (asked === "first_contact") return contacts(entry, actions);
  const choice = answers.some((one) => one.id !== "push-out");
  if (choice && !document.result && !asked) return answers;
  if (document.kind === "break") return [scratch(game, document, actions)];
  const missing = target !== null && target.pocket === null && document.called != null && !entry.shot;
  if (
    asked === "called" ||
    (entry.open.includes("called") && !asked) ||
    (missing && document.result !== "played")
  )
    return pockets(game, target, actions);
  if (
    asked === "result" ||
    !resultOf(entry) ||
    entry.open.includes("result") ||
    entry.open.includes("intent")
  )
    return [...results(entry, actions), scratch(game, document, actions), ...(choice ? [] : answers)];
  if (entry.open.includes("first_contact")) return contacts(entry, actions);
  return [];
}

/** What may be answered instead of a stroke, and the ball that may be nominated. */
export function answersOf(game: Game, entry: Entry, actions: Actions): Ask[] {
  const up = entry.up;
  if (!up) return [];
  const { name } = disciplineOf(game.header.discipline);
  const people = game.header.players as Record<string, { name?: string }> | undefined;
  const side = up.player === "A" ? "B" : "A";
  const other = people?.[side]?.name ?? side;
  const answers = up.choices.filter((choice) => choice !== "push-out" && !choice.startsWith("free-ball:"));
  const asks = answers.map((choice): Ask => ({
    id: choice,
    words: choiceWords(choice, name, up.choices, other),
    key: ANSWER_KEYS[choice],
    run: () => {
      actions.answer(choice);
    },
  }));
  if (answers.includes("play-again") && game.rules["miss"] === true)
    asks.push({
      id: "play-from-here",
      words: `has ${other} play from here`,
      key: PLAY_FROM_HERE,
      run: () => {
        actions.answer("play-again", { replaced: false });
      },
    });
  const free = freeBall(entry.document);
  const offered = up.choices.some((choice) => choice.startsWith("free-ball:"));
  if (up.phase === "after a foul")
    asks.push({
      id: "free-ball",
      words: free
        ? `free ball: the ${sortOf(free)}`
        : offered
          ? "free ball"
          : "free ball (not seen in the places)",
      key: "F",
      on: free !== null,
      run: actions.freeBall,
    });
  if (up.choices.includes("push-out"))
    asks.push({
      id: "push-out",
      words: "push-out",
      key: "x",
      on: entry.document.declared === "push-out",
      run: actions.pushOutOrSafety,
    });
  return asks;
}

function players(game: Game, document: ShotDocument, actions: Actions): Ask[] {
  const people = (game.header.players ?? {}) as Record<
    string,
    { name?: string; partner?: string } | undefined
  >;
  return (["A", "B"] as const).flatMap((side) =>
    (["name", "partner"] as const)
      .filter((seat) => seat === "name" || people[side]?.partner)
      .map((seat): Ask => ({
        id: `${side}-${seat}`,
        words: people[side]?.[seat] ?? side,
        key: "P",
        on: document.player === side && (document.by ?? "name") === seat,
        run: () => {
          actions.player(side, people[side]?.partner ? seat : undefined);
        },
      })),
  );
}

const pockets = (game: Game, target: Target | null, actions: Actions): Ask[] =>
  POCKETS.map((pocket) => ({
    id: pocket.name,
    words: disciplineOf(game.header.discipline).pockets[pocket.name],
    key: pocket.key,
    on: target?.pocket === pocket.name,
    run: () => {
      actions.choosePocket(pocket.name);
    },
  }));

const results = (entry: Entry, actions: Actions): Ask[] =>
  RESULTS.map((result) => ({
    id: result.id,
    words: result.words,
    key: result.key,
    on: resultOf(entry) === result.id,
    run: () => {
      actions.result(result.id);
    },
  }));

const scratch = (game: Game, document: ShotDocument, actions: Actions): Ask => ({
  id: "scratch",
  words: disciplineOf(game.header.discipline).scratch,
  key: "c",
  on: Boolean(document.scratch),
  run: actions.scratch,
});

/** Which ball was hit first; like balls are one choice. */
export function contacts(entry: Entry, actions: Actions): Ask[] {
  const first = entry.document.first_contact;
  const sorts = [...new Set(entry.standing.map(sortOf))];
  return [
    {
      id: "nothing",
      words: "hit nothing",
      key: "n",
      on: first === null,
      run: () => {
        actions.hitFirst(null);
      },
    },
    ...sorts.slice(0, 15).map((sort): Ask => ({
      id: `first-${sort}`,
      words: `hit the ${sort}`,
      on: first != null && sortOf(first) === sort,
      run: () => {
        actions.hitFirst(sort);
      },
    })),
  ];
}
