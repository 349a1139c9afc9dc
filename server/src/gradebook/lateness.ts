import type { DatesView } from '@rosemary/api';
import { type DatesInForce, lateBy, spanInWords } from '@rosemary/core';
import type { FactColumn } from './factTypes.ts';

export function latenessText(column: Pick<FactColumn, 'late'>, dates: DatesInForce, handedInAt: number): string | null {
  const late = lateBy(handedInAt, dates.due.at, column.late?.graceMinutes ?? 0);
  return late === null ? null : `${spanInWords(late)} late`;
}

export function datesView(dates: DatesInForce): DatesView {
  const view = (d: { at: number | null; reason: string }): { at: string | null; reason: string } => ({
    at: d.at === null ? null : new Date(d.at).toISOString(),
    reason: d.reason,
  });
  return { opens: view(dates.opens), due: view(dates.due), closes: view(dates.closes) };
}
