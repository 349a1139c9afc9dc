/** Instants travel as ISO text, points and percentages as whole thousandths. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly pointers?: readonly { readonly field: string; readonly text: string }[];
  readonly current?: unknown;
  readonly id?: string;
}
