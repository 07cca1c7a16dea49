/** A modal dialog on the platform's own element: focus stays inside, Escape closes. */
import { useEffect, useRef, type ReactNode } from "react";

export function Dialog({
  title,
  onClose,
  children,
  wide,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = ref.current;
    if (!dialog || dialog.open) return;
    dialog.showModal();
    dialog.querySelector<HTMLElement>("input:not([type=file]), textarea, select")?.focus();
  }, []);
  return (
    <dialog
      ref={ref}
      onClose={onClose}
      aria-label={title}
      className={`sheet m-auto whitespace-normal max-h-[90vh] overflow-y-auto p-5 text-base-content backdrop:bg-black/40 ${wide ? "w-[760px]" : "w-[480px]"} max-w-[94vw]`}
    >
      <div className="mb-3 flex items-baseline justify-between gap-4">
        <h2 className="text-lg">{title}</h2>
        <button className="btn btn-ghost btn-xs" onClick={() => ref.current?.close()}>
          Close
        </button>
      </div>
      {children}
    </dialog>
  );
}
