/** The part of the UCUM library that we use; it ships no types of its own. */
declare module '@lhncbc/ucum-lhc' {
  interface UcumUnit {
    readonly dim_: { readonly dimVec_: readonly number[] | null } | null;
    readonly magnitude_: number;
    readonly cnv_: string | null | undefined;
  }
  export const UcumLhcUtils: {
    getInstance(): { getSpecifiedUnit(code: string, mode: 'validate'): { readonly unit: UcumUnit | string | null } | null };
  };
}
