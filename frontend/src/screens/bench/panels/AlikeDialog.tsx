/** Where a shot was before: the likest first, how often they were made, each a way to its moment. */
import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../../../api/client";
import type { Alike, Game } from "../../../api/types";
import { Dialog } from "../../../parts/Dialog";
import { Problem } from "../../../parts/Problem";
import { RateBar } from "../../../parts/RateBar";
import { rateWords } from "../../../words";
import { ShotsList } from "../../figures/ShotsList";

interface Props {
  game: Game;
  shot: string;
  onClose: () => void;
}

export function AlikeDialog({ game, shot, onClose }: Props) {
  const { data, error } = useQuery({
    queryKey: ["alike", game.id, shot, game.last_change],
    queryFn: () =>
      answered<Alike>(
        api.GET("/api/games/{game_id}/shots/{shot_id}/alike", {
          params: { path: { game_id: game.id, shot_id: shot } },
        }),
      ),
  });
  return (
    <Dialog title="Where this shot was before" onClose={onClose} wide>
      <Problem of={error} />
      {data && !data.comparable && (
        <p>
          There is nothing to compare: the shot has no meant ball and pocket, or its places are not known.
        </p>
      )}
      {data?.comparable && data.n === 0 && <p>Never yet: no shot of this club comes near it.</p>}
      {data?.comparable && data.n > 0 && (
        <div className="space-y-2" onClick={onClose}>
          <p className="max-w-xl text-[13px]">
            Made {rateWords(data.rate)}. Alike in cut (within some seven degrees), distances, window and way
            to the next ball; mirrored shots count as the same.
          </p>
          <div className="max-w-sm">
            <RateBar rate={data.rate} />
          </div>
          <ShotsList
            title={data.n > data.shots.length ? `the likest ${data.shots.length}` : "the likest first"}
            n={data.n}
            shots={data.shots}
            more={null}
            error={null}
          />
        </div>
      )}
    </Dialog>
  );
}
