import { addressing, analyse, links, show as core, wordsOf, type Show } from '@deep-patch/core';
import { describe, expect, test } from 'vitest';
import { demoPasswords, demoShow, typeLibrary } from './index.ts';

const analysed = (show: Show) => analyse(show, core.nothingSeen, 0);
const unique = (texts: readonly string[]) => new Set(texts).size === texts.length;

/** A parameter with an argument in its name stands for several on the unit's screen. */
const isShown = (shown: ReadonlySet<string>, parameter: string): boolean => {
  const pattern = new RegExp(`^${parameter.replace(/\{\w+\}/g, '\\d+')}$`);
  return [...shown].some((each) => pattern.test(each));
};

describe('the type library', () => {
  test('has about two dozen types, each as the schema wants it, with names of its own', () => {
    expect(typeLibrary.length).toBeGreaterThanOrEqual(20);
    for (const type of typeLibrary)
      expect([type.id, core.schemas.types.safeParse(type).error?.issues]).toEqual([type.id, undefined]);
    expect([
      unique(typeLibrary.map(({ id }) => id)),
      unique(typeLibrary.map(({ name }) => name.toLowerCase())),
    ]).toEqual([true, true]);
  });

  test.each(typeLibrary.map((type) => [type.id, type] as const))('%s fits together', (_id, type) => {
    const adapters = type.adapters.map(({ key }) => key);
    expect([
      unique(adapters),
      unique(type.sockets.map(({ key }) => key)),
      unique(type.services.map(({ key }) => key)),
    ]).toEqual([true, true, true]);
    // a socket that leads to no adapter is for pictures, LED data, setting up or a spare audio path
    for (const { adapter, role } of type.sockets)
      expect(adapter === null ? type.forwards || role !== 'any' : adapters.includes(adapter)).toBe(true);
    expect(unique(type.services.map(({ transport, receivePort }) => `${transport} ${receivePort}`))).toBe(true);
    const shown = new Set(type.face.map(({ parameter }) => parameter));
    for (const { commands, protocol } of type.services) {
      expect(unique(commands.map(({ key }) => key))).toBe(true);
      for (const command of commands) {
        const names = new Set(command.args.map(({ name }) => name));
        const used = [
          command.address,
          ...command.sets.map(({ value }) => value),
          ...(command.reply?.args ?? []),
        ].flatMap((text) => [...text.matchAll(/\{(\w+)\}/g)].map(([, name]) => name));
        for (const name of used) expect([command.key, name, names.has(name ?? '')]).toEqual([command.key, name, true]);
        for (const { parameter } of command.sets)
          expect([command.key, parameter, isShown(shown, parameter)]).toEqual([command.key, parameter, true]);
        expect(command.method === undefined).toBe(protocol !== 'http');
      }
    }
  });
});

describe('Harbour Finals', () => {
  test('is a whole and valid show of 39 units and two programs', () => {
    const show = demoShow();
    for (const table of core.tableNames)
      for (const row of core.rowsOf(show, table))
        expect([table, row.id, core.schemas[table].safeParse(core.contentOf(row)).error?.issues]).toEqual([
          table,
          row.id,
          undefined,
        ]);
    expect(core.danglingReferences(show)).toEqual([]);
    expect([
      Object.keys(show.devices).length,
      Object.keys(show.networks).length,
      Object.keys(show.links).length,
    ]).toEqual([41, 4, 19]);
    const named = [...core.rowsOf(show, 'services'), ...core.rowsOf(show, 'links')].flatMap(
      ({ secretId }) => secretId ?? [],
    );
    for (const id of named) expect(Object.keys(demoPasswords)).toContain(id);
  });

  test('every cable ends in a socket that is there and holds one cable only', () => {
    const show = demoShow();
    const ends = core.rowsOf(show, 'cables').flatMap((cable) => [
      { device: cable.fromDevice, socket: cable.fromSocket },
      { device: cable.toDevice, socket: cable.toSocket },
    ]);
    for (const { device, socket } of ends)
      expect([
        device,
        socket,
        core.typeOf(show, show.devices[device])?.sockets.some(({ key }) => key === socket),
      ]).toEqual([device, socket, true]);
    expect(unique(ends.map(({ device, socket }) => `${device} ${socket}`))).toBe(true);
  });

  test('its honest mistakes are found, worst first and causes before what they cause', () => {
    const { findings } = analysed(demoShow());
    expect(findings.map(({ grade, code }) => `${grade} ${code}`)).toEqual([
      'stops broadcast_address',
      'stops duplicate_ip',
      'stops address_not_placed',
      'stops port_interchanged',
      'stops port_slip',
      'stops time_name_differs',
      'stops time_no_session',
      'stops time_rate_differs',
      'stops wall_count_short',
      'stops wall_player_differs',
      'stops wall_program_differs',
      'risky firmware_below',
      'risky partner_versions',
      'risky partner_versions',
      'risky partner_versions',
      'risky platform_other_system',
      'risky seats_short',
      'risky too_many_sources',
      'risky in_pool',
      'risky mask_differs',
      'risky input_differs',
      'risky segment_wireless_hop',
      'risky service_version_below',
      'risky moves_little',
      'risky cue_name_unknown',
      'risky clip_unplayable',
      'risky list_follows_selection',
      'note alike_differ',
      'note known_login',
      'note no_copy',
      'note several_writers',
      'note factory_inside',
      'note factory_inside',
      'note ipv6_on',
      'note waiting',
      'note odd_unassigned',
      'note action_runs_over',
      'note wall_not_stored',
    ]);
    expect(unique(findings.map(({ key }) => key))).toBe(true);
  });

  test('every finding has what, why and fix in whole sentences', () => {
    for (const finding of analysed(demoShow()).findings) {
      const { what, why, fix } = wordsOf(finding);
      for (const text of [what, why, fix])
        expect([finding.code, text]).toEqual([finding.code, expect.stringMatching(/^[A-Z\d].*[.!]$/)]);
      expect([finding.code, `${what}${why}${fix}`.match(/undefined|null|NaN|\[object/)]).toEqual([finding.code, null]);
    }
  });

  test('every fix applies to the plan it was made for and takes its own finding away', () => {
    const show = demoShow();
    for (const { key, fixes } of analysed(show).findings)
      for (const { label, change } of fixes) {
        const applied = core.applyChange(show, change);
        if (!applied.ok) throw new Error(`${label} does not apply`);
        expect([key, label, analysed(applied.show).findings.some((finding) => finding.key === key)]).toEqual([
          key,
          label,
          false,
        ]);
        expect(core.danglingReferences(applied.show)).toEqual([]);
      }
  });

  test('pressing every button until none is left brings all links but the old password to bottom', () => {
    let show = demoShow();
    for (let step = 0; step < 30; step += 1) {
      const change =
        analysed(show).findings.find(({ fixes, grade }) => fixes.length > 0 && grade !== 'note')?.fixes[0]?.change ??
        analysed(show).findings.find(({ fixes }) => fixes.length > 0)?.fixes[0]?.change;
      const applied = change && core.applyChange(show, change);
      if (!applied?.ok) break;
      show = applied.show;
    }
    const { findings, depths } = analysed(show);
    // a panel that does not answer is mended with a cable in the hand
    expect(findings.filter(({ grade }) => grade === 'stops').map(({ code }) => code)).toEqual(['wall_count_short']);
    expect([...depths.values()].every(({ depth }) => depth === 8)).toBe(true);
    // what no button can mend: versions, seats, callers, radio, copies
    expect(new Set(findings.map(({ code }) => code))).toEqual(
      new Set([
        'wall_count_short',
        'wall_not_stored',
        'firmware_below',
        'partner_versions',
        'seats_short',
        'too_many_sources',
        'segment_wireless_hop',
        'service_version_below',
        'alike_differ',
        'known_login',
        'no_copy',
        'odd_unassigned',
        'several_writers',
        'factory_inside',
        'clip_unplayable',
        'action_runs_over',
      ]),
    );
  });

  test('its rulers account for every unit of each network', () => {
    const { addressing: facts } = analysed(demoShow());
    for (const on of facts.networks) {
      const ruler = addressing.rulerOf(facts, on);
      expect(ruler.size).toBe(256);
      expect(ruler.units.reduce((sum, { names }) => sum + names.length, 0)).toBe(
        on.planned.filter(({ ip }) => ip !== null).length,
      );
      for (const { at } of ruler.units) expect(at >= 0 && at < ruler.size).toBe(true);
      const { widest } = ruler;
      if (!widest) throw new Error('no gap');
      for (let at = widest.from; at <= widest.to; at += 1)
        expect(addressing.obstacleAt(facts, on, on.subnet.network + at)).toBeUndefined();
    }
  });

  test('a new link to any drivable service is filled in so that nothing but its login can stop it', () => {
    const show = demoShow();
    const host = show.devices['host'];
    if (!host) throw new Error('no host');
    for (const { target, service } of links.drivable(show, host)) {
      const change = links.planAddLink(show, {
        id: 'new',
        controllerId: host.id,
        targetId: target.id,
        serviceKey: service.key,
        slot: null,
      });
      const applied = change && core.applyChange(show, change);
      if (!applied?.ok) throw new Error(`no link to ${target.name}`);
      const stop = analysed(applied.show).soundings.get('new')?.stopsAt;
      // a desk that already answers somebody else keeps doing so; an unplaced or doubled address, and an amplifier on
      // the audio network alone, are not the link's fault
      const apart = core.typeOf(show, target)?.kind === 'amplifier' ? ['segment'] : [];
      expect([
        target.name,
        stop === undefined || ['address', 'access', 'reply', ...apart].includes(stop.layer),
      ]).toEqual([target.name, true]);
    }
    expect(links.nextSlot(show, 'remote')).toBe(6);
  });
});
