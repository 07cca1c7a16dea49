/** A strip that is wider than its room: what is looked at is brought into it, the page stays where it is. */
export function bringIn(strip: HTMLElement | null): void {
  const current = strip?.querySelector('[aria-current="true"]')?.getBoundingClientRect();
  const room = strip?.getBoundingClientRect();
  if (!strip || !current || !room) return;
  if (current.left < room.left) strip.scrollLeft += current.left - room.left;
  else if (current.right > room.right) strip.scrollLeft += current.right - room.right;
}
