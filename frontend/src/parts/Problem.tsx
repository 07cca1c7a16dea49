/** A failure in one sentence, where it happened. */
export function Problem({ of }: { of: unknown }) {
  if (!of) return null;
  return (
    <p role="alert" className="border-l-2 border-error py-1 pl-2 text-error">
      {of instanceof Error ? of.message : "This did not work."}
    </p>
  );
}
