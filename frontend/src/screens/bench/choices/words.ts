/** How choices are put into words. */
import type { Option, Rate } from "../../../api/types";

export const isPoints = (option: Option) => option.win === null;

export const signed = (value: number) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}`;

export const part = (rate: Rate) => (rate.p === null ? "–" : `${Math.round(100 * rate.p)} %`);

/** Whether two values cannot be told apart by their intervals. */
export function asGood(one: Rate | null, other: Rate | null): boolean {
  if (one?.p == null || other?.p == null) return false;
  const half = (rate: Rate) => (rate.high - rate.low) / 2;
  return Math.abs(one.p - other.p) <= Math.hypot(half(one), half(other));
}
