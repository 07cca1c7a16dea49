/** At the end of a list that came in pages: how much there is, and the next page. */
interface Props {
  shown: number;
  n: number;
  more: (() => void) | null;
}

export function More({ shown, n, more }: Props) {
  if (!more) return null;
  return (
    <p className="flex items-baseline gap-3 py-2 text-[12px]">
      <span className="opacity-75">
        {shown} of {n}
      </span>
      <button className="chip" onClick={more}>
        show more
      </button>
    </p>
  );
}
