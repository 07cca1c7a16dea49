/** The dialog that lies open over the bench, if any. */
import { useOutbox } from "../../../api/outbox";
import { Dialog } from "../../../parts/Dialog";
import { AboutMatch } from "../../matches/AboutMatch";
import { Recordings } from "../../recordings/Recordings";
import type { Actions } from "../actions";
import { open, useBench } from "../model/state";
import type { Workbench } from "../model/useWorkbench";
import { AlikeDialog } from "./AlikeDialog";
import { BreakDialog } from "./BreakDialog";
import { ClashDialog, DiamondDialog } from "./Dialogs";
import { HoleDialog } from "./HoleDialog";
import { OverruleDialog } from "./Overrule";
import { KeysDialog, Palette } from "./Palette";

export function OpenDialog({ bench, actions }: { bench: Workbench; actions: Actions }) {
  const { dialog, placing, chosen } = useBench();
  const ball = placing ?? chosen ?? "cue";
  const clash = useOutbox((state) => state.clash);
  const close = () => {
    open(null);
  };
  if (clash?.game === bench.game.id) return <ClashDialog clash={clash} game={bench.game} />;
  switch (dialog) {
    case "keys":
      return <KeysDialog bench={bench} actions={actions} onClose={close} />;
    case "commands":
      return <Palette bench={bench} actions={actions} onClose={close} />;
    case "hole":
      return (
        <HoleDialog
          game={bench.game}
          entry={bench.entry}
          onClose={close}
          onDone={(hole) => {
            close();
            actions.hole(hole);
          }}
        />
      );
    case "alike":
      return <AlikeDialog game={bench.game} shot={bench.entry.key} onClose={close} />;
    case "about":
      return <AboutMatch id={bench.game.id} onClose={close} />;
    case "break":
      return <BreakDialog game={bench.game} entry={bench.entry} actions={actions} onClose={close} />;
    case "overrule":
      return (
        <OverruleDialog
          game={bench.game}
          document={bench.document}
          onClose={close}
          onDone={(patch) => {
            actions.set(patch, "overruled");
            close();
          }}
        />
      );
    case "recordings":
      return (
        <Dialog title="Choose a recording" onClose={close} wide>
          <Recordings onChoose={actions.link} />
        </Dialog>
      );
    case "diamonds":
      return (
        <DiamondDialog
          game={bench.game}
          ball={ball}
          onClose={close}
          onPlace={(at) => {
            close();
            actions.byDiamonds(ball, at);
          }}
        />
      );
    case null:
      return null;
  }
}
