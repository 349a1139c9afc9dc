export {
  findVeil,
  listUnveiled,
  listVeiledItems,
  namesRows,
  readHidden,
  unveil,
  type Veil,
  veiledId,
  veiledName,
  veilEntry,
  veilWork,
  workId,
} from './anonymity.ts';
export type { Target } from './target.ts';
