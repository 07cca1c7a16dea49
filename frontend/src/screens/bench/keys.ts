/** The bench's one keyboard map: what each key does, in the order in which `?` shows it. */
import type { Discipline } from "../../games/discipline";
import { POCKETS, RESULTS } from "../../words";

export interface Key {
  key: string;
  shown?: string;
  does: string;
  group: "Shot" | "Result" | "Table" | "Recording" | "Everything";
}

const KEYS: Key[] = [
  { key: "k", does: "next kind of shot", group: "Shot" },
  { key: "i", does: "next intent", group: "Shot" },
  { key: "o", does: "whose word the intent is", group: "Shot" },
  { key: "x", does: "push-out when allowed, else a called safety", group: "Shot" },
  ...RESULTS.map((r): Key => ({ key: r.key, does: r.words, group: "Result" })),
  { key: "f", does: "no rail after the contact", group: "Result" },
  { key: "Enter", does: "log the shot and go on", group: "Result" },
  { key: "p", does: "place balls one after the other", group: "Table" },
  { key: "z", does: "target zone: click its middle", group: "Table" },
  { key: "Z", shown: "Shift+Z", does: "target zone of the chosen object ball", group: "Table" },
  { key: "-", shown: "- +", does: "zone smaller, larger", group: "Table" },
  { key: "r", does: "last leg: click where it began", group: "Table" },
  { key: "b", does: "before and after the shot", group: "Table" },
  { key: "y", does: "two diamond figures for the cue ball, or the ball in hand", group: "Table" },
  { key: "Delete", does: "take the chosen ball off", group: "Table" },
  { key: "Escape", does: "put the tool down", group: "Table" },
  { key: " ", shown: "Space", does: "play and pause", group: "Recording" },
  { key: "ArrowRight", shown: "← →", does: "one picture; with Shift one second", group: "Recording" },
  { key: "<", shown: "< >", does: "slower, faster", group: "Recording" },
  { key: "v", does: "loop this shot", group: "Recording" },
  { key: "[", shown: "[ \\ ]", does: "mark still picture, contact, standstill", group: "Recording" },
  { key: "R", shown: "Shift+R", does: "read the balls of this picture", group: "Recording" },
  { key: "D", shown: "Shift+D", does: "next doubtful shot among those found", group: "Recording" },
  { key: "N", shown: "Shift+N", does: "add a shot that was not found, at this picture", group: "Recording" },
  { key: "F", shown: "Shift+F", does: "picture and drawn layout in turn", group: "Recording" },
  { key: "h", does: "turn head and foot (while marking the table)", group: "Recording" },
  { key: "C", shown: "Shift+C", does: "what should be played here", group: "Everything" },
  {
    key: "M",
    shown: "Shift+M",
    does: "the map behind the table, while choices are shown",
    group: "Everything",
  },
  { key: "ArrowDown", shown: "↑ ↓ or , .", does: "shot before, next shot", group: "Everything" },
  { key: "u", shown: "u, Shift+U", does: "undo, redo", group: "Everything" },
  { key: "?", does: "these keys", group: "Everything" },
];

/** The keys with the words of a discipline: how its balls are named, what its pockets and its scratch are called. */
export function keysFor(discipline: Discipline): Key[] {
  return [
    { key: "1", shown: discipline.keys[0], does: discipline.keys[1], group: "Shot" },
    ...POCKETS.map((p): Key => ({ key: p.key, does: `pocket ${discipline.pockets[p.name]}`, group: "Shot" })),
    ...KEYS,
    { key: "c", does: discipline.scratch, group: "Result" },
  ];
}

/** Whether a key press belongs to what has the focus: text for a field, or a button reached with Tab. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (event.ctrlKey || event.metaKey || event.altKey || !target) return true;
  const presses = event.key === "Enter" || event.key === " " || event.key === "Escape";
  if (presses && target.matches("button:focus-visible, a:focus-visible, summary")) return true;
  return (
    target.closest("input:not([type=checkbox], [type=radio], [type=range]), textarea, select, dialog") !==
    null
  );
}
