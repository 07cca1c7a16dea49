/** A coach's first hour: the page of the documentation, with its pictures. */
import { marked } from "marked";

import text from "../../../../docs/first-hour.md?raw";

const PICTURES: Record<string, string> = import.meta.glob("../../../../docs/screenshots/*.png", {
  eager: true,
  query: "?url",
  import: "default",
});

/** Ours, so it is shown as it stands; pictures under the names that the built page has for them. */
const html = marked
  .parse(text, { async: false })
  .replaceAll(
    /src="screenshots\/([^"]+)"/g,
    (_, name: string) => `src="${PICTURES[`../../../../docs/screenshots/${name}`] ?? ""}" loading="lazy"`,
  );

export function FirstHour() {
  return (
    <article className="guide mx-auto max-w-3xl p-4 sm:p-6" dangerouslySetInnerHTML={{ __html: html }} />
  );
}
