/** A pane of the bench: its own tools on top, what it shows as large as the room allows, what belongs below it. */
import type { ReactNode } from "react";

interface Props {
  name: string;
  /** Width over height of what is shown. */
  ratio: number;
  dark?: boolean;
  tools?: ReactNode;
  below?: ReactNode;
  className?: string;
  children: ReactNode;
}

export function Pane({ name, ratio, dark = false, tools, below, className = "", children }: Props) {
  return (
    <section aria-label={name} className={`pane sheet ${className}`}>
      {tools && <div className="pane-tools">{tools}</div>}
      <div className={`pane-body ${dark ? "bg-black" : ""}`}>
        <div className="pane-fit" style={{ "--ratio": ratio } as React.CSSProperties}>
          {children}
        </div>
      </div>
      {below}
    </section>
  );
}
