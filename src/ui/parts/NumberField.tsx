'use client';

interface NumberFieldProps {
  readonly label: string;
  readonly unit: string;
  readonly value: string;
  readonly least?: number;
  readonly most?: number;
  readonly set: (value: string) => void;
}

/** A number with its unit, taken over when the field is left or Enter is pressed: what depends on it is computed anew. */
export function NumberField({ label, unit, value, least, most, set }: NumberFieldProps) {
  return (
    <label className="flex items-center gap-2">
      {label}
      <input
        type="number"
        step="any"
        min={least}
        max={most}
        defaultValue={value}
        onBlur={(event) => set(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && set(event.currentTarget.value)}
        className="figure w-20 rounded border border-rule bg-sheet px-1.5 py-1 text-right"
      />
      {unit}
    </label>
  );
}
