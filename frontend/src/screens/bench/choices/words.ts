/** How choices are put into words. */
import type { Option, Rate } from "../../../api/types";

export const isPoints = (option: Option) => option.win === null;

export const signed = (value: number) => `${value >= 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}`;

export const part = (rate: Rate) => (rate.p === null ? "–" : `${Math.round(100 * rate.p)} %`);
