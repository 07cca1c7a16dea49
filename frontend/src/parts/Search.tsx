/** A field to find something among what came in pages. */
interface Props {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
}

export function Search({ label, placeholder, value, onChange }: Props) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={placeholder}
      className="input input-sm w-44"
      value={value}
      onChange={(event) => {
        onChange(event.target.value);
      }}
    />
  );
}
