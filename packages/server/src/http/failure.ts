/** Every way in which the server refuses a request: status, title and what to do (style habit 7). */
export const failures = {
  NOT_JSON: {
    status: 400,
    title: 'The request is not JSON',
    todo: 'Send a JSON body with content-type application/json.',
  },
  INVALID: {
    status: 422,
    title: 'The request has faults',
    todo: 'Mend every fault listed and send it again. Nothing was saved.',
  },
  BROKEN_ROW: {
    status: 422,
    title: 'A row does not fit the database',
    todo: 'Check addresses and ports of the rows. Nothing was saved.',
  },
  DANGLING: {
    status: 422,
    title: 'A row points at something that is not there',
    todo: 'Load the show again: what it points at may have been removed. Nothing was saved.',
  },
  TOO_LARGE: { status: 413, title: 'The request is too large', todo: 'Send at most 1 MB, or 10 MB to the imports.' },
  CAPTURE_TOO_LARGE: {
    status: 413,
    title: 'The capture is larger than 100 MB',
    todo: 'Cut it, or capture less: ARP, DHCP and multicast DNS are enough. Nothing was saved.',
  },
  FILE_TOO_LARGE: {
    status: 413,
    title: 'The file is larger than 20 MB',
    todo: 'Keep the pages that the job needs, or a smaller scan. Nothing was saved.',
  },
  FILE_EMPTY: { status: 422, title: 'There is nothing in this file', todo: 'Choose another file.' },
  NO_DOCUMENT: { status: 404, title: 'This paper is not kept here', todo: 'Load the show again.' },
  WRONG_HOST: {
    status: 403,
    title: 'This address is not served here',
    todo: 'Open Deep Patch by the address that it printed at its start.',
  },
  WRONG_ORIGIN: { status: 403, title: 'Another site sent this request', todo: 'Open Deep Patch in a tab of its own.' },
  NO_ROUTE: {
    status: 404,
    title: 'There is nothing at this address',
    todo: 'See /api/openapi.json for what there is.',
  },
  SHOW_NOT_FOUND: { status: 404, title: 'No show has this id', todo: 'Go back to the list of shows.' },
  SHOW_EXISTS: { status: 409, title: 'A show with this id is there already', todo: 'Choose another name.' },
  SHOW_CHANGED: {
    status: 409,
    title: 'Changed meanwhile',
    todo: 'Compare both versions and choose. Nothing was lost.',
  },
  ROW_EXISTS: {
    status: 409,
    title: 'A row with this id is there already',
    todo: 'Add it under an id of its own, or change the row that is there. Nothing was saved.',
  },
  NOTHING_TO_UNDO: { status: 409, title: 'There is nothing of yours to take back', todo: 'Make a change first.' },
  NOTHING_TO_REDO: { status: 409, title: 'There is nothing to do again', todo: 'Take a change back first.' },
  FRAME_GONE: {
    status: 404,
    title: 'The bytes of this line are not kept any more',
    todo: 'The tap keeps the last 20,000 frames. Hold it, sound the link again and open the new line.',
  },
  LINK_NOT_FOUND: { status: 404, title: 'No link has this id', todo: 'Load the show again.' },
  BENCH_AWAY: {
    status: 503,
    title: 'The bench stopped',
    todo: 'It starts again by itself. Try once more in a few seconds; the plan is untouched.',
  },
  BENCH_REFUSED: { status: 422, title: 'The bench cannot do this', todo: 'Load the show again and check the unit.' },
  DATABASE_AWAY: {
    status: 503,
    title: 'The database does not answer',
    todo: 'Nothing was half-saved. Work goes on by itself when it is back; try again in a few seconds.',
  },
  DISK_FULL: {
    status: 507,
    title: 'The disk is full',
    todo: 'Nothing was half-saved. Make room on the disk that holds the data folder, then try again: work goes on by itself.',
  },
  DATABASE_BUSY: {
    status: 503,
    title: 'Too many wait for the database',
    todo: 'Nothing was saved. Try again in a few seconds.',
  },
  IMPORTS_BUSY: {
    status: 503,
    title: 'Too many imports at once',
    todo: 'Nothing was saved. Try again in a few seconds.',
  },
  OWN_FAULT: {
    status: 500,
    title: 'Deep Patch made a mistake',
    todo: 'Try again. If it stays, the server’s log says more.',
  },
} as const;

export type FailureCode = keyof typeof failures;

export class Failure extends Error {
  readonly code: FailureCode;
  readonly facts: Readonly<Record<string, unknown>>;
  constructor(code: FailureCode, facts: Readonly<Record<string, unknown>> = {}, options?: ErrorOptions) {
    super(failures[code].title, options);
    this.code = code;
    this.facts = facts;
  }
}
