/** Names for a sentence: `A, B and C`, or the first four `and 3 more`. */
export function nameList(names: unknown): string {
  // who has several of what the sentence is about is named once
  const all = Array.isArray(names) ? [...new Set(names as string[])] : [];
  if (all.length > 4) return `${all.slice(0, 4).join(', ')} and ${all.length - 4} more`;
  // names may hold commas themselves, so the last one is set apart before joining
  return [all.slice(0, -1).join(', '), ...all.slice(-1)].filter(Boolean).join(' and ');
}
