import type { z } from 'zod';

type Issue = Parameters<z.core.$ZodErrorMap>[0];

const kinds: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list in square brackets',
  object: 'fields in braces',
  record: 'fields in braces',
  null: 'null',
};

/** One sentence for what a schema does not say in words of its own: never the parser's. */
export function issueWords(issue: Issue): string | undefined {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'This is missing' : `This must be ${kinds[issue.expected] ?? issue.expected}`;
    case 'too_big':
      return sizeWords(issue.origin, `At most ${issue.maximum}`);
    case 'too_small':
      return issue.origin === 'string' && issue.minimum === 1
        ? 'This is empty'
        : sizeWords(issue.origin, `At least ${issue.minimum}`);
    case 'invalid_value':
      return `One of: ${issue.values.map(String).join(', ')}`;
    case 'unrecognized_keys':
      return `There is no field ${issue.keys.map((key) => `“${key}”`).join(' or ')}`;
    case 'invalid_union':
      return 'This has none of the forms that it may have';
    default:
      return undefined;
  }
}

function sizeWords(origin: string, words: string): string {
  if (origin === 'string') return `${words} characters`;
  return origin === 'array' || origin === 'set' ? `${words} of them` : words;
}
