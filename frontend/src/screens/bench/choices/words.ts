/** How choices are put into words. */
import type { Option, Rate } from "../../../api/types";
import { ballName } from "../../../table/balls";
import { pocketWords } from "../../../words";
import { worthOf } from "./useChoicesOf";

export const isPoints = (option: Option) => option.win === null;

export function worthWords(option: Option): string {
  const worth = worthOf(option);
  if (worth?.p == null) return "–";
  return isPoints(option) ? signed(worth.p) : `${(100 * worth.p).toFixed(1)} %`;
}

export function spreadWords(option: Option): string {
  const worth = worthOf(option);
  if (!worth) return "";
  const half = (worth.high - worth.low) / 2;
  return `± ${isPoints(option) ? half.toFixed(1) : (100 * half).toFixed(1)}, n ${worth.n}`;
}

export const signed = (value: number) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}`;

export function titleOf(option: Option, discipline: string): string {
  if (option.intent === "push-out") return "push-out";
  if (!option.ball) return option.kind === "other" ? option.intent : `${option.kind}, ${option.intent}`;
  const kind = option.kind === "pot" ? "" : `${option.kind}: `;
  return `${kind}${ballName(option.ball)} ${pocketWords(option.pocket, discipline)}`;
}

/** "draw, firm, left": the stroke as a coach says it. */
export function strokeWords(stroke: Record<string, unknown>): string {
  const height = Number(stroke["height"] ?? 0);
  const side = Number(stroke["side"] ?? 0);
  const speed = Number(stroke["speed"] ?? 0);
  const tip = height < -0.12 ? "draw" : height > 0.12 ? "follow" : "stun";
  const turn = side > 0.1 ? ", right" : side < -0.1 ? ", left" : "";
  const pace = speed < 1.2 ? "soft" : speed < 2.4 ? "medium" : "firm";
  const raised = Math.round((Number(stroke["elevation"] ?? 0) * 180) / Math.PI);
  return `${tip}, ${pace}${turn} (${speed.toFixed(1)} m/s${raised > 0 ? `, cue raised ${raised}°` : ""})`;
}

export const part = (rate: Rate) => (rate.p === null ? "–" : `${Math.round(100 * rate.p)} %`);
