/** Upper ends of the classes of the histogram of lateness (µs); the last class has none. */
export const lateClasses = [50, 100, 200, 300, 500, 750, 1000, 1500, 2000, 3000, 5000, 10_000, 20_000, 50_000] as const;

/** How well a run on a bench has kept its time. Times are the wall's. */
export interface BenchTiming {
  readonly cycles: number;
  /** Length of a cycle (µs). */
  readonly cycleUs: number;
  /** How late cycles began, by the classes `lateClasses`. */
  readonly late: readonly number[];
  readonly medianLateUs: number;
  /** 99 of 100 cycles began no later. */
  readonly late99Us: number;
  readonly longestLateUs: number;
  /** How long the exchange with the controller took. */
  readonly medianExchangeUs: number;
  readonly longestExchangeUs: number;
  /** Cycles that began later than they may. */
  readonly overruns: number;
  /** Cycles the controller has done, and those it says it left out. */
  readonly controllerCycles: number;
  readonly controllerOverruns: number;
}

/** What of a run on a bench is kept beside what it found. */
export interface BenchRecord {
  readonly bench: string;
  /** Fingerprint of the build that ran; nothing where the controller has a program of its own. */
  readonly build?: string;
  readonly timing: BenchTiming;
  /** Criteria, and expectations of the case, that pauses may have decided: they are open, or were never asked for. */
  readonly undecided?: number;
  /** Which attempt it was, where those before had missed their time or left something undecided. */
  readonly attempt?: number;
}
