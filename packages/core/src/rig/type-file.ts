import {
  definitionsOf,
  rowsOf,
  typeFaults,
  typeFileSchema,
  typeShape,
  type Content,
  type Show,
  type TypeFile,
} from '../show/index.ts';

export interface TypeFileFault {
  readonly at: string;
  readonly message: string;
}
export type TypeFileRead =
  { readonly ok: true; readonly file: TypeFile } | { readonly ok: false; readonly faults: readonly TypeFileFault[] };

const mostFaults = 50;

/** Reads a library from JSON text: whole, or with all its faults. Unknown fields are faults, so that a slip is noticed. */
export function readTypeFile(text: string): TypeFileRead {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    return {
      ok: false,
      faults: [{ at: '', message: `This is no JSON: ${error instanceof Error ? error.message : ''}` }],
    };
  }
  const read = typeFileSchema.safeParse(parsed);
  if (read.success) return { ok: true, file: read.data };
  const faults = read.error.issues.map(({ path, message }) => ({ at: path.map(String).join('.'), message }));
  return { ok: false, faults: faults.slice(0, mostFaults) };
}

/** One library of a show as a file; ids and revisions belong to the show and stay there. */
export function writeTypeFile(show: Show, libraryId: string): TypeFile {
  const types = rowsOf(show, 'types')
    .filter((type) => type.libraryId === libraryId)
    .sort((a, b) => (a.model < b.model ? -1 : 1))
    .map(({ id: _id, libraryId: _library, rev: _rev, ...type }) => type);
  return { format: 'device-types', version: 1, name: show.libraries[libraryId]?.name ?? 'Types', types };
}

/** Faults of one type as a form shows them, by the path of the field. */
export function typeIssues(content: unknown): Map<string, string> {
  const read = typeShape.safeParse(content);
  const own = read.success ? typeFaults(read.data) : read.error.issues.map(({ path, message }) => ({ path, message }));
  return new Map(own.map(({ path, message }) => [path.map(String).join('.'), message]));
}

/** Has it the lists and braces that a form of a type needs? What stands in its fields may still be wrong. */
export function isFormable(content: unknown): boolean {
  const read = typeShape.safeParse(content);
  return (
    read.success ||
    read.error.issues.every(
      (issue) =>
        issue.code !== 'unrecognized_keys' &&
        (issue.code !== 'invalid_type' || (issue.expected !== 'array' && issue.expected !== 'object')),
    )
  );
}

/** Is there a definition above this one, so that it counts for nothing? */
export const isHidden = (show: Show, type: Content<'types'>): boolean =>
  definitionsOf(show).get(type.model)?.id !== type.id;
