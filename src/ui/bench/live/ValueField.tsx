interface ValueFieldProps {
  readonly label: string;
  readonly value: number;
  readonly min: number | undefined;
  readonly max: number | undefined;
  /** Not as it was designed. */
  readonly isOther?: boolean;
  readonly set: (value: number) => void;
}

/** A number on a bench that runs, taken over by Enter alone: what is half written changes nothing, and an empty field is no 0. */
export function ValueField({ label, value, min, max, isOther = false, set }: ValueFieldProps) {
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
