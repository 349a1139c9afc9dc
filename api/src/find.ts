export interface Found {
  readonly what: string;
  /** A little of the text the words stand in; empty where they stand in the title. */
  readonly around: string;
  readonly title: string;
  readonly where: string;
  readonly to: string;
}
