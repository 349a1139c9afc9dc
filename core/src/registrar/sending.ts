/** Where a grade is on its way to the registrar. */
export const ROW_STATES = {
  'awaits approval': 'waits for approval',
  waiting: 'waiting to be sent',
  sending: 'being sent',
  accepted: 'accepted',
  refused: 'refused',
  unknown: 'unknown: the registrar has not answered',
  'by hand': 'entered at the registrar by hand',
  'taken back': 'taken back before it was sent',
} as const;
export type RowState = keyof typeof ROW_STATES;

/** States in which a row is under way: there is one such row of a student at a time. */
export const UNDER_WAY: readonly RowState[] = ['awaits approval', 'waiting', 'sending', 'unknown'];
/** States in which the registrar holds the grade. */
export const HELD: readonly RowState[] = ['accepted', 'by hand'];

/** What came back of asking the registrar something. */
export type Reply =
  | { readonly kind: 'accepted'; readonly receipt: string }
  | { readonly kind: 'refused'; readonly code: string; readonly text: string }
  /** He has no submission of this key. */
  | { readonly kind: 'not seen' }
  /** Nothing was sent: there was no connection. */
  | { readonly kind: 'no connection' }
  /** It was sent, and nothing that can be read came back: it may or may not be stored. */
  | { readonly kind: 'no answer' };

export interface RowOutcome {
  readonly state: RowState;
  readonly receipt: string | null;
  readonly code: string | null;
  readonly text: string;
  /** When it is tried again by itself, in milliseconds from now; null where it is not. */
  readonly pause: number | null;
}

const MINUTE = 60_000;
const LONGEST = 30 * MINUTE;
/** The pause before a row is tried again: a minute, then twice as long each time, half an hour at most. */
export const sendPause = (tries: number): number => Math.min(LONGEST, MINUTE * 2 ** Math.min(Math.max(0, tries - 1), 10));

/**
 * What becomes of a row that was tried once more (`tries` so far), by what came back. Without a connection it is plainly waiting, unless an
 * earlier try may have been stored (`mayBeStored`): then, as after any try without an answer, it is unknown, and the registrar is asked before
 * anything is sent again. Whatever he said himself is final until somebody sends it anew.
 * Worked example: the second try that is never answered is `unknown`, to be asked about after two minutes.
 */
export function rowAfter(reply: Reply, tries: number, mayBeStored: boolean): RowOutcome {
  const nothing = { receipt: null, code: null };
  switch (reply.kind) {
    case 'accepted':
      return { state: 'accepted', receipt: reply.receipt, code: null, text: '', pause: null };
    case 'refused':
      return { state: 'refused', receipt: null, code: reply.code, text: reply.text, pause: null };
    case 'no connection':
      return {
        ...nothing,
        state: mayBeStored ? 'unknown' : 'waiting',
        text: mayBeStored
          ? 'There was no connection to the registrar. He is asked whether he has it before it is sent again.'
          : 'There was no connection to the registrar.',
        pause: sendPause(tries),
      };
    case 'not seen':
    case 'no answer':
      return {
        ...nothing,
        state: 'unknown',
        text: 'The registrar did not answer. He is asked whether he has it before it is sent again.',
        pause: sendPause(tries),
      };
  }
}

/** Whether the registrar may have a row that is due: then he is asked about it first, and it is never sent blindly. */
export const mayBeStored = (state: RowState): boolean => state !== 'waiting';

/** What a refusal of the registrar means, and what to do about it, in our words. */
export const REFUSALS: { readonly [code: string]: { readonly says: string; readonly mend: string } } = {
  'not-of-record': {
    says: 'The registrar does not know you as the instructor of record of this section.',
    mend: 'Let the instructor of record send it, or ask the registrar to enter you.',
  },
  'window-closed': {
    says: 'The registrar’s window is closed.',
    mend: 'Ask the registrar to open it, then send these rows again.',
  },
  'unknown-student': {
    says: 'The registrar does not know this student.',
    mend: 'Check the student’s key in the roster, then send the row again.',
  },
  'unknown-letter': {
    says: 'The registrar does not take this letter.',
    mend: 'Mend the table of letters, agree anew, and send the row again.',
  },
  'not-in-section': {
    says: 'The registrar has this student in another section, or in none.',
    mend: 'Move the student to the section where the registrar has them, then send the row again.',
  },
  'already-final': {
    says: 'The registrar holds a grade already that is final.',
    mend: 'Read back what he holds. If it is another, send a correction with its reason.',
  },
  'date-missing': { says: 'The registrar needs the last day of attendance.', mend: 'Name it, agree anew, and send the row again.' },
  'expiry-missing': {
    says: 'The registrar needs the day until which the work may be finished.',
    mend: 'Name it, agree anew, and send the row again.',
  },
  'unknown-section': {
    says: 'The registrar does not know this section.',
    mend: 'Check the section’s key with the registrar, then send its rows again.',
  },
  'wrong-token': {
    says: 'The registrar does not let Rosemary in.',
    mend: 'The administrator checks the registrar’s token in the settings of the server.',
  },
};
/** The same for a code that we do not know: what the registrar said himself. */
export const refusalWords = (code: string, text: string): { readonly says: string; readonly mend: string } =>
  REFUSALS[code] ?? { says: text === '' ? `The registrar refused it (${code}).` : text, mend: 'Ask the registrar what he needs.' };
