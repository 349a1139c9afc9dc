import { instant, Joi } from './joi.ts';
import type { TermLineData } from './course.ts';

export interface SlipChoice {
  readonly slip: string;
  readonly until: string | null;
}

export const slipChoice = Joi.object<SlipChoice, true>({ slip: Joi.string().max(120).required(), until: instant().required() });

export interface Slip {
  readonly id: string;
  readonly verb: string;
  readonly text: string;
  readonly detail: string;
  readonly strong: string;
  readonly after: string;
  readonly action: string;
  readonly to: string;
}

export interface DeskCourse {
  readonly id: string;
  readonly title: string;
  readonly about: string;
  readonly students: number;
  readonly toMark: number;
  readonly soFar: string | null;
}

export interface Desk {
  readonly heading: string;
  readonly summary: string;
  readonly line: TermLineData | null;
  readonly slips: readonly Slip[];
  readonly putOff: readonly { readonly slip: Slip; readonly back: string }[];
  readonly courses: readonly DeskCourse[];
}
