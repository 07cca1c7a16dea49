/** Speeds in a coach's words. */
const WORDS: [number, string][] = [
  [0.6, "barely"],
  [1.3, "soft"],
  [2.3, "medium"],
  [3.6, "firm"],
  [6, "hard"],
  [Infinity, "break speed"],
];

export const speedWords = (speed: number) => WORDS.find(([below]) => speed < below)?.[1] ?? "";
