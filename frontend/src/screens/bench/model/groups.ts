/** What lies folded behind one key each, and the letters by which each word in it is said. */
import type { Game, ShotDocument } from "../../../api/types";
import { disciplineOf, ofSort, sortOf } from "../../../games/discipline";
import { trade } from "../../../trade";
import { INTENTS, INTENT_MEANS, KINDS, SOURCES, STROKES } from "../../../words";
import type { Actions } from "../actions";
import { contacts } from "./asked";
import { hasFoul, withFoul, type Entry } from "./entry";
import type { Group } from "./state";

export interface Item {
  id: string;
  words: string;
  on: boolean;
  letter: string;
  /** What it says of a shot, where the word alone may be taken otherwise. */
  means?: string;
  /** Items of one line belong together. */
  line: string;
  run: () => void;
}

export interface Folded {
  group: Group;
  title: string;
  key: string;
  /** What is said already. */
  said: string;
}

type Set = (patch: Partial<ShotDocument>, label: string) => void;
type Bare = Omit<Item, "letter"> & { letter?: string };

/** The same in every game. */
const FOUL_LETTERS: Record<string, string> = {
  scratch: "s", "no-contact": "n", "no-rail": "r", "off-table": "o", "double-hit": "d", push: "p",
  "touching-ball": "t", "no-foot": "f", "moved-ball": "m", "illegal-break": "i", "breaking-foul": "i",
}; // prettier-ignore

const GROUPS: { group: Group; title: string; key: string }[] = [
  { group: "fouls", title: "fouls", key: "f" },
  { group: "fell", title: "what fell", key: "V" },
  { group: "causes", title: "causes", key: "W" },
  { group: "stroke", title: "stroke", key: "K" },
  { group: "break", title: "break", key: "B" },
  { group: "about", title: "about it", key: "A" },
  { group: "routine", title: "routine", key: "H" },
  { group: "questions", title: "questions", key: "Q" },
  { group: "note", title: "note", key: "T" },
];

const PUT_BACK = "put-back";

/** The groups that this entry has, with what is said in each. */
export function foldedOf(game: Game, entry: Entry): Folded[] {
  const { document } = entry;
  const breaks = linesOf(game, document).length > 0;
  return GROUPS.filter(({ group }) => group !== "break" || breaks).map((one) => ({
    ...one,
    said: saidIn(one.group, document, game),
  }));
}

function saidIn(group: Group, document: ShotDocument, game: Game): string {
  switch (group) {
    case "fouls":
      return foulsOf(game, document)
        .filter((foul) => hasFoul(document, foul))
        .map(words)
        .join(", ");
    case "fell":
      return (document.potted ?? []).map((one) => sortOf(one.ball)).join(", ");
    case "causes":
      return (document.causes ?? []).join(", ");
    case "stroke":
      return (document.stroke?.words ?? []).join(", ");
    case "break":
      return Object.values(document.break_record ?? {})
        .flat()
        .filter((one) => typeof one === "string")
        .join(", ");
    case "about":
      return [
        document.seen === false && "not seen",
        ...(document.flags ?? []),
        ...(document.also ?? []),
        document.intent_source === "stated" && "intent stated",
      ]
        .filter(Boolean)
        .join(", ");
    case "routine":
      return Object.entries(document.routine ?? {})
        .map(([name, kept]) => (kept ? name : `not: ${name}`))
        .join(", ");
    case "questions": {
      const open = (document.questions ?? []).filter((one) => !one.answer).length;
      return open ? `${String(open)} open` : String(document.questions?.length ?? "") || "";
    }
    case "note":
      return document.note ?? "";
  }
}

const words = (id: string) => id.replaceAll("-", " ");

const foulsOf = (game: Game, document: ShotDocument) =>
  disciplineOf(game.header.discipline).fouls.filter(
    (foul) => document.kind === "break" || !["illegal-break", "breaking-foul"].includes(foul),
  );

/** The words of a group, each with its own letter; causes are found by typing. */
export function itemsOf(group: Group, game: Game, entry: Entry, actions: Actions): Item[] {
  const set: Set = (patch, label) => {
    actions.set(patch, label);
  };
  return lettered(bare(group, game, entry, actions, set));
}

function bare(group: Group, game: Game, entry: Entry, actions: Actions, set: Set): Bare[] {
  const { document } = entry;
  switch (group) {
    case "fouls":
      return [
        ...fouls(game, entry, actions, set),
        ...contacts(entry, actions).map((ask): Bare => ({ ...ask, on: ask.on ?? false, line: "hit first" })),
      ];
    case "fell":
      return [
        ...fell(game, entry, actions),
        ...entered(document, set),
        ...luck(document, set),
        ...later(entry, set),
      ];
    case "stroke":
      return STROKES.flatMap((line) => line.map((word) => stroke(document, line, word, set)));
    case "break":
      return breakItems(game, document, set);
    case "about":
      return about(document, set);
    case "routine":
      return trade.routine.map((name) => habit(document, name, set));
    default:
      return [];
  }
}

function fouls(game: Game, entry: Entry, actions: Actions, set: Set): Bare[] {
  const { document } = entry;
  const flags = document.flags ?? [];
  return [
    {
      id: "scratch",
      words: disciplineOf(game.header.discipline).scratch,
      on: Boolean(document.scratch),
      letter: FOUL_LETTERS["scratch"],
      line: "fouls",
      run: actions.scratch,
    },
    ...foulsOf(game, document).map((foul): Bare => ({
      id: foul,
      words: words(foul),
      on: hasFoul(document, foul),
      letter: FOUL_LETTERS[foul],
      line: "fouls",
      run: () => {
        set(withFoul(document, foul, entry.legal), words(foul));
      },
    })),
    {
      id: PUT_BACK,
      words: "balls put back",
      on: flags.includes(PUT_BACK),
      line: "fouls",
      run: () => {
        set({ flags: toggled(flags, PUT_BACK) }, "balls put back");
      },
    },
  ];
}

/** A ball a letter; of like balls each press lets one more fall. */
function fell(game: Game, entry: Entry, actions: Actions): Bare[] {
  const { sorts } = disciplineOf(game.header.discipline);
  const potted = (entry.document.potted ?? []).map((one) => one.ball);
  const balls = [...new Set([...entry.standing, ...potted])];
  const single = balls.filter((ball) => !sorts.some((sort) => sort === sortOf(ball)));
  const like = sorts.flatMap((sort): Bare[] => {
    const fallen = ofSort(potted, sort);
    const [next] = ofSort(balls, sort).filter((ball) => !potted.includes(ball));
    const last = fallen.at(-1);
    return [
      {
        id: `fell-${sort}`,
        words: fallen.length ? `${sort} × ${String(fallen.length)}` : sort,
        on: fallen.length > 0,
        line: "fell",
        run: () => {
          if (next) actions.fell(next, true);
        },
      },
      ...(last
        ? [{ id: `fewer-${sort}`, words: `one ${sort} fewer`, on: false, line: "fell", run: () => { actions.fell(last, false); } }] // prettier-ignore
        : []),
    ];
  });
  return [
    ...like,
    ...single.map((ball): Bare => ({
      id: `fell-${ball}`,
      words: ball,
      on: potted.includes(ball),
      line: "fell",
      run: () => {
        actions.fell(ball, !potted.includes(ball));
      },
    })),
  ];
}

function entered(document: ShotDocument, set: Set): Bare[] {
  if (!document.called) return [];
  const now = document.entered ?? {};
  const line = (key: "part" | "meant" | "how", name: string, all: readonly string[]): Bare[] =>
    all.map((word) => ({
      id: `${key}-${word}`,
      words: word,
      on: now[key] === word,
      line: name,
      run: () => {
        set({ entered: { ...now, [key]: now[key] === word ? null : word } }, "how it entered");
      },
    }));
  return [
    ...line("part", "entered", trade.entered),
    ...line("meant", "meant for", trade.entered),
    ...line("how", "how", trade.how_it_fell),
  ];
}

const luck = (document: ShotDocument, set: Set): Bare[] =>
  Object.entries(trade.luck).map(([id, said]) => ({
    id: `luck-${id}`,
    words: said,
    on: document.luck === id,
    line: "luck",
    run: () => {
      set({ luck: document.luck === id ? null : (id as "pure") }, "luck");
    },
  }));

/** What else the cue ball met, and whether that was planned. */
function later(entry: Entry, set: Set): Bare[] {
  const { document } = entry;
  const met = document.contacts ?? [];
  const balls = entry.standing.filter((ball) => ball !== document.first_contact).slice(0, 15);
  return balls.map((ball) => {
    const now = met.find((one) => one.ball === ball);
    const order = [undefined, ...Object.keys(trade.contacts)];
    const next = order[(order.indexOf(now?.how ?? undefined) + 1) % order.length] as "kissed" | undefined;
    const how = now?.how ? trade.contacts[now.how] : "";
    return {
      id: `met-${ball}`,
      words: how ? `${ball} ${how}` : ball,
      on: now !== undefined,
      line: "then met",
      run: () => {
        const others = met.filter((one) => one.ball !== ball);
        const one = next && { ball, how: next, planned: next !== "kissed" };
        set({ contacts: one ? [...others, one] : others }, "later contact");
      },
    };
  });
}

function stroke(document: ShotDocument, line: readonly string[], word: string, set: Set): Bare {
  const said = document.stroke?.words ?? [];
  return {
    id: word,
    words: word,
    on: said.includes(word),
    line: line[0] ?? "",
    run: () => {
      const others = said.filter((one) => !line.includes(one));
      set(
        { stroke: { ...document.stroke, words: said.includes(word) ? others : [...others, word] } },
        "stroke",
      );
    },
  };
}

type Lines = readonly (readonly [name: string, key: string, words: readonly string[]])[];

/** What is noted of this break, or of a straight-pool break shot. */
function linesOf(game: Game, document: ShotDocument): Lines {
  const discipline = disciplineOf(game.header.discipline);
  if (document.kind === "break") return discipline.breaks;
  if (discipline.goes_on && (document.kind === "break-out" || document.also?.includes("break-out")))
    return trade.break_shot;
  return [];
}

type BreakNotes = NonNullable<ShotDocument["break_record"]>;

function breakItems(game: Game, document: ShotDocument, set: Set): Bare[] {
  const record: BreakNotes = document.break_record ?? {};
  const now = record as { [key: string]: unknown };
  const items = linesOf(game, document).flatMap(([name, key, all]) =>
    all.map((word): Bare => ({
      id: `${key}-${word}`,
      words: word,
      on: isSaid(now[key], word),
      line: name,
      run: () => {
        set({ break_record: { ...record, [key]: withWord(now[key], word, key === "made") } }, "break record");
      },
    })),
  );
  const box: Bare = {
    id: "box",
    words: "from the break box",
    on: record.box === true,
    line: "Rack",
    run: () => {
      set({ break_record: { ...record, box: record.box === true ? null : true } }, "break box");
    },
  };
  const spots = (["head ball", "money ball"] as const).map((spot): Bare => ({
    id: `spot-${spot}`,
    words: `${spot} on the spot`,
    on: record.spot === spot,
    line: "Rack",
    run: () => {
      set({ break_record: { ...record, spot: record.spot === spot ? null : spot } }, "rack spot");
    },
  }));
  return document.kind === "break" && disciplineOf(game.header.discipline).rotation
    ? [...items, ...spots, box]
    : items;
}

const isSaid = (value: unknown, word: string) =>
  Array.isArray(value) ? value.includes(word) : value === word;

function withWord(value: unknown, word: string, many: boolean): unknown {
  if (!many) return value === word ? null : word;
  return toggled(Array.isArray(value) ? (value as string[]) : [], word);
}

function about(document: ShotDocument, set: Set): Bare[] {
  const flags = document.flags ?? [];
  const kinds = document.kind === "break" ? (["break", ...KINDS] as const) : KINDS;
  const pick = <T extends string>(line: string, all: readonly T[], now: T | null | undefined, patch: (one: T) => Partial<ShotDocument>): Bare[] =>
    all.map((one) => ({
      id: `${line}-${one}`,
      words: words(one),
      on: now === one,
      line,
      run: () => {
        set(patch(one), line);
      },
    })); // prettier-ignore
  return [
    ...pick("kind", kinds, document.kind, (kind) => ({ kind })),
    ...pick("intent", INTENTS, document.intent, (intent) => ({ intent })).map((one) => ({
      ...one,
      means: INTENT_MEANS[one.words.replace(" ", "-") as keyof typeof INTENT_MEANS],
    })),
    ...SOURCES.map(([source, said]): Bare => ({
      id: `source-${source}`,
      words: said,
      on: (document.intent_source ?? "unknown") === source,
      line: "that intent is",
      run: () => {
        set({ intent_source: source }, "whose word the intent is");
      },
    })),
    {
      id: "opens",
      words: "opens balls",
      on: document.also?.includes("break-out") ?? false,
      line: "also",
      run: () => {
        set({ also: toggled(document.also ?? [], "break-out") }, "opens balls");
      },
    },
    {
      id: "unseen",
      words: "not seen",
      on: document.seen === false,
      line: "also",
      run: () => {
        set({ seen: document.seen === false }, "seen");
      },
    },
    ...(["experiment", "demonstration"] as const).map((flag): Bare => ({
      id: flag,
      words: flag,
      on: flags.includes(flag),
      line: "also",
      run: () => {
        set({ flags: toggled(flags, flag) }, flag);
      },
    })),
  ];
}

/** Seen, seen to be missing, not watched. */
function habit(document: ShotDocument, name: string, set: Set): Bare {
  const routine = document.routine ?? {};
  const kept = routine[name];
  return {
    id: name,
    words: kept === false ? `not: ${name}` : name,
    on: kept !== undefined,
    line: "routine",
    run: () => {
      const others = Object.fromEntries(Object.entries(routine).filter(([other]) => other !== name));
      set({ routine: kept === undefined ? { ...others, [name]: true } : kept ? { ...others, [name]: false } : others }, "routine"); // prettier-ignore
    },
  };
}

export const toggled = <T extends string>(all: readonly T[], one: T): T[] =>
  all.includes(one) ? all.filter((other) => other !== one) : [...all, one];

/** Each word's first letter that no word before it has; digits name balls by themselves. */
function lettered(items: Bare[]): Item[] {
  const taken = new Set(items.flatMap((item) => item.letter ?? []));
  return items.map((item) => {
    if (item.letter) return { ...item, letter: item.letter };
    const own = [...item.words.toLowerCase().replace(/[^a-z]/g, ""), ..."abcdefghijklmnopqrstuvwxyz"];
    const letter = /^\d$/.test(item.words) ? item.words : own.find((one) => !taken.has(one));
    if (letter) taken.add(letter);
    return { ...item, letter: letter ?? "" };
  });
}
