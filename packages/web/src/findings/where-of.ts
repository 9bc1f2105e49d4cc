import type { findings, Show } from '@deep-patch/core';

/** Where in a show a finding can be looked at: the rest of its address. */
export function whereOf(show: Show | undefined, finding: findings.Finding): string {
  const [subject] = finding.subjects;
  if (!subject) return 'rig';
  const { table, id } = subject;
  if (table === 'links') return `links/${id}`;
  if (table === 'addresses') return `addresses/${show?.addresses[id]?.networkId ?? ''}/${id}`;
  if (table === 'networks') return `addresses/${id}`;
  if (table === 'blocks') return `addresses/${show?.blocks[id]?.networkId ?? ''}`;
  if (table === 'cables') return `cabling/${id}`;
  if (table === 'types') return `rig?do=types&type=${id}`;
  return table === 'devices' ? `rig/${id}` : 'rig';
}
