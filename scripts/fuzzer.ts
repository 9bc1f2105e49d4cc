/**
 * Requests made at random from the description of the interface: bodies that fit their schema, bodies that almost do,
 * and bytes that mean nothing, to paths that exist, almost exist or do not.
 */
export interface FuzzRequest {
  readonly method: string;
  /** As it stands in the description. */
  readonly route: string;
  readonly path: string;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string | undefined;
}

interface Schema {
  readonly type?: string | readonly string[];
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly items?: Schema | false;
  /** Of a list with a fixed number of places, what each holds. */
  readonly prefixItems?: readonly Schema[];
  readonly maxItems?: number;
  readonly minItems?: number;
  readonly format?: string;
  readonly pattern?: string;
  readonly minimum?: number;
  readonly maximum?: number;
}
interface Operation {
  readonly requestBody?: { readonly content: { readonly 'application/json': { readonly schema: Schema } } };
  readonly parameters: readonly { readonly name: string; readonly in: string }[];
}
export interface Description {
  readonly paths: Readonly<Record<string, Readonly<Record<string, Operation>>>>;
}

/** Numbers from a seed: the same requests again for the same seed (a linear congruential generator). */
export function diceFrom(seed: number): (below: number) => number {
  let state = seed >>> 0;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** What hurts programs: in any place of a body, a path or a question. */
const hostile: readonly unknown[] = [
  null,
  true,
  '',
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udc00y',
  '\u202e',
  '../../etc/passwd',
  "'; drop table show; --",
  '=1+1',
  'A'.repeat(5000),
  '__proto__',
  'constructor',
  0,
  -1,
  1.5,
  2 ** 31,
  2 ** 53,
  -(2 ** 63),
  1e308,
  [],
  {},
  [[[[[[]]]]]],
  { toString: 1 },
  Array.from({ length: 300 }, () => 'x'),
];

/** Half of a pair cannot be written into an address: something else that is not UTF-8 stands there. */
function inAddress(text: string): string {
  try {
    return encodeURIComponent(text);
  } catch {
    return '%ed%a0%80';
  }
}

export interface KnownRow {
  readonly table: string;
  readonly row: Readonly<Record<string, unknown>> & { readonly id: string; readonly rev: number };
}

/** What exists: shows, ids of whatever is in them, and whole rows of the first show. */
export interface Known {
  readonly shows: readonly string[];
  readonly ids: readonly string[];
  readonly rows: readonly KnownRow[];
}

const isForChanges = (route: string): boolean => /\/(changes|imports)$/.test(route);

export class Fuzzer {
  private readonly roll: (below: number) => number;
  private readonly known: Known;
  private readonly routes: readonly {
    readonly route: string;
    readonly method: string;
    readonly operation: Operation;
  }[];

  constructor(description: Description, known: Known, seed: number) {
    this.roll = diceFrom(seed);
    this.known = known;
    this.routes = Object.entries(description.paths).flatMap(([route, operations]) =>
      Object.entries(operations).flatMap(([method, operation]) => {
        const one = { route, method: method.toUpperCase(), operation };
        // where the plan moves there is most to go wrong
        return Array.from({ length: isForChanges(route) && method === 'post' ? 4 : 1 }, () => one);
      }),
    );
  }

  next(): FuzzRequest {
    const { route, method, operation } = this.one(this.routes);
    const path = route.replace(/\{(\w+)\}/g, (_whole, name: string) => inAddress(this.pathPart(name)));
    const asked = operation.parameters
      .filter((parameter) => parameter.in === 'query' && this.roll(12) > 0)
      .map(({ name }) => `${name}=${inAddress(this.text(name === 'since' ? '3' : 'author-fuzz-1'))}`);
    const schema = operation.requestBody?.content['application/json'].schema;
    return {
      method: this.roll(60) === 0 ? this.one(['PUT', 'PATCH', 'DELETE', 'POST']) : method,
      route,
      path: `${path}${this.roll(80) === 0 ? this.one(['/', '/x', '%00', '%', '%ff', '?a=b']) : ''}${asked.length > 0 ? `?${asked.join('&')}` : ''}`,
      headers: {
        'content-type': this.roll(25) === 0 ? this.one(['text/plain', 'application/xml', '']) : 'application/json',
      },
      body: method === 'GET' ? undefined : this.body(schema, isForChanges(route)),
    };
  }

  private body(schema: Schema | undefined, isChange: boolean): string | undefined {
    if (!schema) return this.one([undefined, '', 'bytes', '\u0000\u0001', JSON.stringify(this.one(hostile))]);
    const value = isChange && this.roll(6) > 0 ? this.change() : this.spoilt(this.value(schema, '', 0));
    const text = JSON.stringify(value);
    if (this.roll(20) > 0) return text;
    return this.one([text.slice(0, this.roll(text.length)), `${text}x`, '', 'null', '[', `"${text}`]);
  }

  /** Rows that exist with a field or two that hold something else, now and then removed, added or out of date. */
  private change(): unknown {
    const edits = Array.from({ length: 1 + this.roll(3) }, () => {
      const { table, row } = this.one(this.known.rows);
      const { rev, ...content } = row;
      const isNew = this.roll(4) === 0;
      const id = isNew ? `f-${this.roll(1_000_000)}` : row.id;
      const after = this.roll(8) === 0 && !isNew ? null : { ...this.moved(content), id };
      return { table, id, base: this.roll(10) === 0 ? this.roll(9) : rev, before: isNew ? null : content, after };
    });
    const whole = { id: `f-${this.roll(1_000_000_000)}`, author: 'author-fuzz-1', change: { label: 'Fuzz', edits } };
    return this.roll(5) === 0 ? this.spoilt(whole) : whole;
  }

  private moved(row: Readonly<Record<string, unknown>>): Record<string, unknown> {
    // half of them are what people do all day, so that something is saved at all
    if ('name' in row && this.roll(2) === 0) return { ...row, name: `Tide gauge ${this.roll(1000)}` };
    const key = this.one(Object.keys(row));
    const there = row[key];
    const kin = this.known.rows.map((other) => other.row[key]).filter((value) => typeof value === typeof there);
    const value = this.roll(3) === 0 || kin.length === 0 ? this.one(hostile) : this.one(kin);
    return { ...row, [key]: value };
  }

  private one<Item>(list: readonly Item[]): Item {
    return list[this.roll(list.length)] as Item;
  }

  private pathPart(name: string): string {
    if (this.roll(12) === 0) return this.one(hostile.filter((value) => typeof value === 'string')) || 'x';
    if (name === 'port') return String(this.one([1, 80, 65_535, 65_536, -1, 'x']));
    return this.one(name === 'documentId' ? this.known.ids : this.known.shows);
  }

  private text(usual: string): string {
    const odd = this.one(hostile.filter((value): value is string => typeof value === 'string'));
    return this.roll(8) === 0 ? odd : usual;
  }

  /** A value that fits a schema more often than not; ids are mostly such as exist. */
  private value(schema: Schema, name: string, depth: number): unknown {
    if ('const' in schema) return schema.const;
    if (schema.enum) return this.one(schema.enum);
    const choices = schema.anyOf ?? schema.oneOf;
    if (choices) return this.value(this.one(choices), name, depth);
    const type = typeof schema.type === 'string' ? schema.type : this.one(schema.type ?? ['null']);
    if (type === 'object') return this.object(schema, depth);
    if (type === 'array') {
      if (schema.prefixItems) return schema.prefixItems.map((item) => this.value(item, name, depth + 1));
      const count = Math.max(schema.minItems ?? 0, depth > 6 ? 0 : this.roll(3));
      const items = Array.from({ length: count }, () => this.value(schema.items || {}, name, depth + 1));
      return this.roll(10) === 0 ? [...items, ...items.slice(0, 1)] : items;
    }
    if (type === 'string') return this.string(schema, name);
    if (type === 'number' || type === 'integer') return this.number(schema, type);
    return type === 'boolean' ? this.roll(2) === 0 : null;
  }

  private object({ properties = {}, required = [], additionalProperties }: Schema, depth: number): unknown {
    const entries = Object.entries(properties)
      .filter(([key]) => required.includes(key) || this.roll(2) === 0)
      .map(([key, schema]) => [key, this.value(schema, key, depth + 1)] as const);
    if (typeof additionalProperties === 'object' && depth < 6)
      entries.push([this.string({}, 'id'), this.value(additionalProperties, '', depth + 1)]);
    return Object.fromEntries(entries);
  }

  private string({ format, pattern }: Schema, name: string): string {
    if (name === 'author') return 'author-fuzz-1';
    if (name === 'id' && this.roll(3) > 0) return `f-${this.roll(1_000_000)}`;
    if (format === 'ipv4' || /^(ip|first|last|host|network|gateway|sendTo)$/.test(name))
      return [10, this.roll(256), this.roll(256), this.roll(256)].join('.');
    if (pattern?.includes('[0-9a-f]{2}:') === true) return '02:00:00:00:00:07';
    if (/Id$|^id$|[kK]ey$/.test(name)) return this.one(this.known.ids);
    return this.one(['a', 'Tide gauge', 'osc', '10', 'ä ö', '2026-11-26']);
  }

  private number({ minimum = -5, maximum = 100_000 }: Schema, type: string): number {
    const within =
      Math.max(minimum, -(2 ** 31)) + this.roll(Math.min(maximum, 2 ** 31) - Math.max(minimum, -(2 ** 31)) + 1);
    return type === 'integer' ? Math.trunc(within) : within + this.roll(10) / 10;
  }

  /** Now and then one place of it holds something else, is missing, or there is one too many. */
  private spoilt(value: unknown): unknown {
    if (this.roll(3) === 0) return value;
    if (typeof value !== 'object' || value === null || this.roll(4) === 0)
      return this.roll(3) === 0 ? this.one(hostile) : value;
    const keys = Object.keys(value);
    const key = keys[this.roll(keys.length)];
    if (key === undefined) return { extra: this.one(hostile) };
    if (Array.isArray(value)) return value.map((item: unknown, at) => (String(at) === key ? this.spoilt(item) : item));
    const part = this.roll(8) === 0 ? undefined : this.spoilt((value as Record<string, unknown>)[key]);
    return { ...value, [key]: part, ...(this.roll(30) === 0 && { extra: this.one(hostile) }) };
  }
}
