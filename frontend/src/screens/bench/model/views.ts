/** How picture and plan share the room. */
import { VIEWS, useSettings } from "../../../settings";
import { say } from "./state";

const WORDS = { both: "Picture and plan.", picture: "The picture alone.", plan: "The plan alone." } as const;

export function nextView(): void {
  const { view } = useSettings.getState();
  const next = VIEWS[(VIEWS.indexOf(view) + 1) % VIEWS.length] ?? "both";
  useSettings.setState({ view: next });
  say(`${WORDS[next]} = changes it.`);
}

/** Browsers allow it where a key or a click asks for it. */
export function wholeScreen(): void {
  const done = document.fullscreenElement
    ? document.exitFullscreen()
    : document.documentElement.requestFullscreen();
  done.catch(() => {
    say("This browser does not give the whole screen.");
  });
}
