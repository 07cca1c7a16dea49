/** Which matches of the list: by words, player, game, kind of session, days. They stand in the address, so that a list
 * that was looked for can be gone back to. */
import { usePlayers } from "../../api/queries";
import type { Sought } from "../../api/types";
import { DISCIPLINES } from "../../games/discipline";
import { useAddress } from "../../parts/address";
import { Search } from "../../parts/Search";
import { trade } from "../../trade";

const FILTERS = ["search", "player", "discipline", "session", "since", "until"] as const;

/** What an address looks for. */
export const soughtIn = (params: URLSearchParams): Sought =>
  Object.fromEntries(FILTERS.flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : [])));

export function useSought(): [Sought, (name: keyof Sought, value: string) => void, () => void] {
  const [params, change] = useAddress({ replace: true });
  return [
    soughtIn(params),
    (name, value) => {
      change({ [name]: value });
    },
    () => {
      change(Object.fromEntries(FILTERS.map((name) => [name, null])));
    },
  ];
}

interface Props {
  sought: Sought;
  onSought: (name: keyof Sought, value: string) => void;
  onClear: () => void;
}

export function Filters({ sought, onSought, onClear }: Props) {
  const players = usePlayers();
  const names = players.data?.players.map(({ name }) => [name, name] as const) ?? [];
  const games = DISCIPLINES.map((one) => [one.name, one.title.toLowerCase()] as const);
  const among = [
    ["player", "Who played", "every player", names],
    ["discipline", "Discipline", "every game", games],
    ["session", "Kind of evening", "every session", trade.sessions],
  ] as const;
  return (
    <search className="mb-3 flex flex-wrap items-center gap-2">
      <Search
        label="Find a match"
        placeholder="title, place, player, note"
        value={sought.search ?? ""}
        onChange={(value) => {
          onSought("search", value);
        }}
      />
      {among.map(([name, label, all, options]) => (
        <Among
          key={name}
          label={label}
          all={all}
          value={sought[name]}
          options={options}
          onChange={(value) => {
            onSought(name, value);
          }}
        />
      ))}
      {(["since", "until"] as const).map((name) => (
        <label key={name} className="flex items-center gap-1 text-[12px]">
          <span className="opacity-75">{name}</span>
          <input
            type="date"
            className="input input-sm w-36"
            value={sought[name] ?? ""}
            onChange={(event) => {
              onSought(name, event.target.value);
            }}
          />
        </label>
      ))}
      {Object.keys(sought).length > 0 && (
        <button className="chip" onClick={onClear}>
          show all
        </button>
      )}
    </search>
  );
}

function Among(props: {
  label: string;
  all: string;
  value: string | undefined;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <select
      aria-label={props.label}
      className="select select-sm w-auto max-w-44"
      value={props.value ?? ""}
      onChange={(event) => {
        props.onChange(event.target.value);
      }}
    >
      <option value="">{props.all}</option>
      {props.options.map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}
