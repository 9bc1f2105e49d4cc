import { show as core } from '@deep-patch/core';
import type { FaultKind } from './fault.ts';

/** Every kind of fault that can be set on the bench, from the file of its name: without one the bench does not start. */
export const faultKinds = Object.fromEntries(
  await Promise.all(core.faultKinds.map(async (kind) => [kind, await faultOf(kind)] as const)),
) as Readonly<Record<core.FaultKind, FaultKind>>;

async function faultOf(kind: core.FaultKind): Promise<FaultKind> {
  const { fault } = (await import(`./kinds/${kind.replaceAll('_', '-')}.ts`)) as { readonly fault: FaultKind };
  return fault;
}
