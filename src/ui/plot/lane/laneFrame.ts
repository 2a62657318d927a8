/** The stretch of time that a plot shows (s), and where on the sheet (px). */
export interface LaneFrame {
  readonly from: number;
  readonly until: number;
  readonly left: number;
  readonly width: number;
}
