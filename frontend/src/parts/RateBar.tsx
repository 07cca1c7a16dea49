/** A rate as a mark on its interval; the number stands beside it. */
import type { Rate } from "../api/types";

export function RateBar({ rate }: { rate: Rate }) {
  return (
    <svg viewBox="0 0 100 8" preserveAspectRatio="none" className="h-2 w-full" aria-hidden>
      <path d="M0 4H100" stroke="var(--color-base-300)" />
      <path
        d={`M${rate.low * 100} 4H${rate.high * 100}`}
        stroke="var(--color-base-content)"
        strokeWidth={2}
      />
      <path d={`M${(rate.p ?? 0) * 100} 0V8`} stroke="var(--color-primary)" strokeWidth={2.5} />
    </svg>
  );
}
