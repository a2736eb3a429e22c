// What is fitted on made-up persons and ships along: the shapes of the numbers in fitted.ts.

/** A fit as text: 8-bit numbers in base64, each row with the largest of it. */
export interface PackedFit {
  mean: { largest: number; values: string };
  shrunk: readonly { left: number; largest: number; values: string }[];
}

/** The calibration: a logistic function of the evidence (J. Platt, 1999), fitted on other persons than it was measured on. */
export interface Calibration {
  alike: number;
  ahead: number;
  faces: number;
  start: number;
}
