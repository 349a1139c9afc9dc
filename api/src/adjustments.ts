/** More or less for one member of a group than the group got, in thousandths of a point, with its reason. */
export interface Adjustment {
  readonly points: number;
  readonly reason: string;
}
export interface Adjustments {
  readonly [enrolmentId: string]: Adjustment;
}
