// The browser's own range control: works by touch, mouse, arrow keys and screen reader.
interface Props {
  label: string;
  value: number;
  least: number;
  most: number;
  unit: string;
  step?: number;
  /** Said instead of the number. */
  said?: string;
  onChange: (value: number) => void;
}

export function RangeInput({ label, value, least, most, unit, step, said, onChange }: Props) {
  return (
    <input
      type="range"
      aria-label={label}
      aria-valuetext={said ?? `${value} ${unit}`.trim()}
      min={least}
      max={most}
      step={step}
      value={value}
      onChange={(event) => onChange(Number(event.currentTarget.value))}
      style={{ width: "100%", height: 44, margin: 0, cursor: "pointer", background: "transparent" }}
    />
  );
}
