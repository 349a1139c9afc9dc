export interface Pointer {
  readonly field: string;
  readonly text: string;
}

const KINDS = {
  'not-signed-in': [401, 'Sign in'],
  'wrong-password': [401, 'Email or password do not match'],
  refused: [403, 'Not yours to do'],
  'read-only': [403, 'You are looking as a student'],
  'not-found': [404, 'Not found'],
  invalid: [422, 'Something needs mending'],
  conflict: [409, 'Changed by someone else meanwhile'],
  confirm: [409, 'Please confirm'],
  running: [409, 'Students are at it'],
  'not-now': [409, 'Not possible now'],
  'too-large': [413, 'Too large'],
  'wrong-type': [415, 'Not an accepted kind of file'],
  'too-many': [429, 'Too many at once'],
  'too-slow': [408, 'Too slow'],
  busy: [503, 'Busy for a moment'],
  'wrong-origin': [403, 'Sent from another site'],
  'database-away': [503, 'The database is away for a moment'],
  broken: [500, 'Something went wrong here'],
} as const;

export type ErrorCode = keyof typeof KINDS;

/** The one error of the application: a code of the table above, a sentence for the person, and the fields it is about. */
export class AppError extends Error {
  readonly code: ErrorCode;
  readonly pointers: readonly Pointer[];
  readonly current: unknown;

  constructor(code: ErrorCode, detail: string, pointers: readonly Pointer[] = [], current: unknown = undefined) {
    super(detail);
    this.code = code;
    this.pointers = pointers;
    this.current = current;
  }

  get status(): number {
    return KINDS[this.code][0];
  }
  get title(): string {
    return KINDS[this.code][1];
  }
}

export const notFound = (): AppError =>
  new AppError('not-found', 'There is nothing here for you. It may have been removed, or the address is mistyped.');

/** One field that needs mending. */
export const invalid = (field: string, text: string): AppError => new AppError('invalid', text, [{ field, text }]);

/** Someone saved another version first: both are given back. */
export const conflict = (current: unknown): AppError =>
  new AppError('conflict', 'Someone else saved this after you opened it. Both versions are shown; choose one.', [], current);

/** Values that PostgreSQL cannot take as what they should be: whoever sent them is told so. */
const UNREADABLE = new Set(['22P02', '22P05', '22021', '22003', '22007', '22008', '22023']);

/** A body that no handler should look at. Whatever reads bodies for us puts a status on what is thrown there, which an `AppError` has already. */
export class UnsoundBody extends Error {
  readonly type = 'entity.unsound';
}

/** What is known of an error that anything below a request threw; null where it is a fault of ours. */
export function knownFault(error: unknown): AppError | null {
  if (error instanceof AppError) return error;
  if (error instanceof UnsoundBody) return invalid('body', error.message);
  if (isDatabaseAway(error))
    return new AppError(
      'database-away',
      'The database does not answer at the moment, so nothing was changed. What you typed is still there; try again in a moment.',
    );
  const { code, type, status, limit } = (typeof error === 'object' && error !== null ? error : {}) as {
    code?: string;
    type?: string;
    status?: number;
    limit?: number;
  };
  if (code === '55P03' || code === '57014' || code === '40P01')
    return new AppError('busy', 'So much is being done to this at once that nothing was changed. Try again in a moment.');
  if (code !== undefined && UNREADABLE.has(code))
    return new AppError('invalid', 'Something in this request is not of the kind that is needed there, so nothing was changed.');
  if (type === 'entity.too.large' && limit !== undefined)
    return new AppError('too-large', `This is more than is taken at once here (${Math.round(limit / 1024)} kB).`);
  // Whatever reads requests for us says by its status that the request is at fault: how it is written, packed or addressed.
  if (type !== undefined || (status !== undefined && status >= 400 && status < 500) || error instanceof URIError)
    return new AppError('invalid', 'The request could not be read.');
  return null;
}

const AWAY = new Set(['ECONNREFUSED', 'ECONNRESET', '57P01', '57P02', '57P03', '25P03', '08006', '08003', '08001', 'EPIPE']);

/** Whether an error says that the database cannot be reached right now. */
export function isDatabaseAway(error: unknown): boolean {
  if (typeof error !== 'object' || error === null) return false;
  const { code, message = '' } = error as { code?: string; message?: string };
  return (code !== undefined && AWAY.has(code)) || /Connection terminated|timeout exceeded when trying to connect/i.test(message);
}
