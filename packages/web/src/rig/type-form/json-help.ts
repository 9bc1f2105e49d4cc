/** What may stand at a place: a field, or a value of a field that has a list of them. */
export interface Offer {
  readonly text: string;
  readonly isField: boolean;
  readonly what: string;
}

interface Schema {
  readonly type?: string;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
}

/** A type without what belongs to its library; undefined while the text is no JSON. */
export function asContent(text: string): object | undefined {
  try {
    const parsed: unknown = JSON.parse(text);
    return typeof parsed === 'object' && parsed !== null && !Array.isArray(parsed)
      ? { ...parsed, id: 'draft', libraryId: 'own' }
      : undefined;
  } catch {
    return undefined;
  }
}

/** What a JSON Schema (draft 2020-12) lets stand at a path; `*` in it is an item of a list. */
export function offersAt(
  schema: object,
  { path, isValue }: { readonly path: readonly string[]; readonly isValue: boolean },
): Offer[] {
  const here = path.reduce<Schema[]>((among, part) => among.flatMap((each) => below(each, part)), [schema]);
  const forms = here.flatMap(formsOf);
  const values = forms.flatMap((form) => [
    ...(form.enum ?? []),
    ...('const' in form ? [form.const] : []),
    ...(form.type === 'boolean' ? [true, false] : []),
    ...(form.type === 'null' ? [null] : []),
  ]);
  const fields = forms.flatMap((form) => Object.entries(form.properties ?? {}));
  return [
    ...(isValue ? values.map((value) => ({ text: JSON.stringify(value), isField: false, what: '' })) : []),
    ...(isValue ? [] : fields.map(([text, field]) => ({ text, isField: true, what: whatOf(field) }))),
  ];
}

const formsOf = (schema: Schema): Schema[] => (schema.anyOf ? schema.anyOf.flatMap(formsOf) : [schema]);

const below = (schema: Schema, part: string): Schema[] =>
  formsOf(schema).flatMap((form) => (part === '*' ? (form.items ?? []) : (form.properties?.[part] ?? [])));

const whatOf = (schema: Schema): string =>
  [...new Set(formsOf(schema).map((form) => (form.enum ? 'one of a list' : (form.type ?? ''))))]
    .filter(Boolean)
    .join(' or ');
