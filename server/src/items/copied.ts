export interface Copied {
  readonly itemId: string;
  readonly copyId: string;
}
