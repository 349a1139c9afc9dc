import { countOf } from '../exact/countOf.ts';
import { judgeCell, type CellJudgement, type CellTarget } from './judgeCell.ts';

/** One cell of a block with what writing it would do; `row` and `column` are places in the grid. */
export interface PlannedCell {
  readonly row: number;
  readonly column: number;
  readonly text: string;
  readonly judgement: Exclude<CellJudgement, { readonly kind: 'same' }>;
}

export interface BlockPlan {
  readonly cells: readonly PlannedCell[];
  /** How many cells hold already what would be written. */
  readonly same: number;
  /** What of the block lies outside of the grid, in words; empty where all of it fits. */
  readonly outside: string;
}

/** Where a block goes: the grid it meets, and the block that is chosen in it. */
export interface BlockPlace {
  readonly rows: number;
  readonly columns: number;
  readonly top: number;
  readonly left: number;
  readonly bottom: number;
  readonly right: number;
}

/**
 * What pasting a block into the grid would do, cell by cell.
 *
 * Convention: the block begins at the top left of what is chosen. Where what is chosen is a whole number of times as large in a direction,
 * the block is repeated in it, so that one value fills everything that is chosen. What lies outside of the grid is counted, never dropped
 * silently. `targetOf` tells of each cell what can be written to it.
 * Worked example: `[['12']]` over three chosen empty cells of 20 points plans three changes to 12.
 */
export function planBlock(
  block: readonly (readonly string[])[],
  place: BlockPlace,
  targetOf: (row: number, column: number) => CellTarget,
): BlockPlan {
  const width = Math.max(...block.map((row) => row.length));
  const times = (chosen: number, size: number): number => (chosen > size && chosen % size === 0 ? chosen / size : 1);
  const high = block.length * times(place.bottom - place.top + 1, block.length);
  const wide = width * times(place.right - place.left + 1, width);
  const cells: PlannedCell[] = [];
  let same = 0;
  for (let r = 0; r < Math.min(high, place.rows - place.top); r += 1) {
    const line = block[r % block.length] ?? [];
    for (let c = 0; c < Math.min(wide, place.columns - place.left); c += 1) {
      const text = line[c % width];
      // A line that is shorter than the others says nothing of the cells it does not have.
      if (text === undefined) continue;
      const [row, column] = [place.top + r, place.left + c];
      const judgement = judgeCell(text, targetOf(row, column));
      if (judgement.kind === 'same') same += 1;
      else cells.push({ row, column, text, judgement });
    }
  }
  const below = Math.max(0, high - (place.rows - place.top));
  const beyond = Math.max(0, wide - (place.columns - place.left));
  const over = [
    ...(below > 0 ? [`${countOf(below, 'row')} below the last student`] : []),
    ...(beyond > 0 ? [`${countOf(beyond, 'column')} to the right of the last one`] : []),
  ];
  return { cells, same, outside: over.join(' and ') };
}
