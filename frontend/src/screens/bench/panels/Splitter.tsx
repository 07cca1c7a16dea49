/** The bar between picture and plan: dragged, or moved by its arrows. */
import { useRef } from "react";

import { useSettings } from "../../../settings";

const LEAST = 0.2;
const STEP = 0.04;

const within = (share: number) => Math.min(1 - LEAST, Math.max(LEAST, share));

export function Splitter() {
  const share = useSettings((state) => state.share);
  const bar = useRef<HTMLDivElement>(null);
  const keep = (next: number) => {
    useSettings.setState({ share: Math.round(within(next) * 1000) / 1000 });
  };
  /** The share of the two that lies before the pointer, along or down as the two stand. */
  const shareAt = (event: React.PointerEvent): number | null => {
    const [one, other] = [bar.current?.previousElementSibling, bar.current?.nextElementSibling].map((pane) =>
      pane?.getBoundingClientRect(),
    );
    if (!one || !other) return null;
    return one.bottom <= other.top
      ? (event.clientY - one.top) / (other.bottom - one.top)
      : (event.clientX - one.left) / (other.right - one.left);
  };
  return (
    <div
      ref={bar}
      role="separator"
      aria-label="Room of the picture"
      aria-orientation="vertical"
      aria-valuenow={Math.round(share * 100)}
      aria-valuemin={LEAST * 100}
      aria-valuemax={100 - LEAST * 100}
      tabIndex={0}
      className="splitter"
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const next = shareAt(event);
        if (next !== null) keep(next);
      }}
      onDoubleClick={() => {
        keep(0.5);
      }}
      onKeyDown={(event) => {
        const by = { ArrowLeft: -STEP, ArrowUp: -STEP, ArrowRight: STEP, ArrowDown: STEP }[event.key];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        keep(share + by);
      }}
    />
  );
}
