import { Choice } from '../../parts/Choice';

interface ValueFieldProps {
  readonly label: string;
  readonly value: number;
  readonly min: number | undefined;
  readonly max: number | undefined;
  /** Names of the values 0, 1, …: one of them is chosen. */
  readonly labels?: readonly string[] | undefined;
  /** Not as it was designed. */
  readonly isOther?: boolean;
  readonly set: (value: number) => void;
}

/** A value on a bench that runs. A number is taken over by Enter alone: what is half written changes nothing, and an empty field is no 0. */
export function ValueField({ label, value, min, max, labels, isOther = false, set }: ValueFieldProps) {
  if (labels) return <Choice label="" named={label} value={value} options={labels.map((name, number) => [number, name] as const)} choose={set} />;
  return (
    <input
      // A field of its own for each value, so that it shows the one in force.
      key={value}
      aria-label={label}
      type="number"
      step="any"
      min={min}
      max={max}
      defaultValue={value}
      className={`figure w-28 rounded border bg-sheet px-1.5 py-0.5 text-right ${isOther ? 'border-fail text-fail' : 'border-rule'}`}
      onKeyDown={(event) => {
        const { value: text } = event.currentTarget;
        if (event.key === 'Enter' && text !== '') set(Number(text));
      }}
    />
  );
}
