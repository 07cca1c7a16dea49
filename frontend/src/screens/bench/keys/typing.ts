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
