import type { show } from '@deep-patch/core';

/**
 * The statements of each table. `select` takes the show and an array of ids, or null for all rows, and gives the rows
 * in the shape of core. `insert` takes the show and the rows, each with its revision, as JSON. `remove` takes the show and ids.
 */
interface Statements {
  readonly select: string;
  readonly insert: string;
  readonly remove: string;
}

export const statements: Readonly<Record<show.TableName, Statements>> = {
  libraries: {
    select: `select id, rev, name, position from library where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into library (show_id, id, rev, name, position) select $1, id, rev, name, position
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, name text, position integer)`,
    remove: `delete from library where show_id = $1 and id = any($2)`,
  },
  types: {
    select: `select id, rev, data from device_type where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into device_type (show_id, id, rev, library_id, name, kind, data)
      select $1, r.doc->>'id', (r.doc->>'rev')::integer, r.doc->>'libraryId', r.doc->>'name', r.doc->>'kind',
        r.doc - 'rev' from jsonb_array_elements($2::jsonb) as r(doc)`,
    remove: `delete from device_type where show_id = $1 and id = any($2)`,
  },
  licences: {
    select: `select id, rev, model, bundle, owned, note from licence where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into licence (show_id, id, rev, model, bundle, owned, note) select $1, id, rev, model, bundle, owned, note
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, model text, bundle text, owned integer, note text)`,
    remove: `delete from licence where show_id = $1 and id = any($2)`,
  },
  networks: {
    select: `select id, rev, name, host(subnet) as network, masklen(subnet) as prefix, vlan, purpose, carries,
        host(gateway) as gateway, needs_outside as "needsOutside", host(pool_from) as "poolFrom",
        host(pool_to) as "poolTo", owner, contact, rules, granted, growth
      from network where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into network (show_id, id, rev, name, subnet, vlan, purpose, carries, gateway, needs_outside,
        pool_from, pool_to, owner, contact, rules, granted, growth)
      select $1, id, rev, name, (network || '/' || prefix)::cidr, vlan, purpose, carries, gateway, "needsOutside",
        "poolFrom", "poolTo", owner, contact, rules, granted, growth
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, name text, network text, prefix integer, vlan integer,
        purpose text, carries text, gateway inet, "needsOutside" boolean, "poolFrom" inet, "poolTo" inet, owner text,
        contact text, rules text, granted jsonb, growth integer)`,
    remove: `delete from network where show_id = $1 and id = any($2)`,
  },
  blocks: {
    select: `select id, rev, network_id as "networkId", label, kinds, host(first) as first, host(last) as last, use
      from block where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into block (show_id, id, rev, network_id, label, kinds, first, last, use)
      select $1, id, rev, "networkId", label, kinds, first, last, use
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "networkId" text, label text, kinds text[], first inet, last inet,
        use text)`,
    remove: `delete from block where show_id = $1 and id = any($2)`,
  },
  devices: {
    select: `select id, rev, type_id as "typeId", name, unit, place, firmware, note, serial,
        host_name as "hostName", swaps, variant, runs_on as "runsOn", adapter, system, system_version as "systemVersion", features, sources, packed, feed, circuit,
        saved_on::text as "savedOn", done, ipv6, socket_vlans as "socketVlans", inputs, sharing, peers,
        accounts, names, rate, take_delay as "takeDelay", leads, used_for as "usedFor", outputs
      from device where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into device (show_id, id, rev, type_id, name, unit, place, firmware, note, serial,
        host_name, swaps, variant, runs_on, adapter, system, system_version, features, sources, packed, feed, circuit, saved_on, done, ipv6,
        socket_vlans, inputs, sharing, peers, accounts, names, rate, take_delay, leads, used_for, outputs)
      select $1, id, rev, "typeId", name, unit, place, firmware, note, serial, "hostName", swaps, variant, "runsOn", adapter, system,
        "systemVersion", features, sources, packed, feed, circuit, "savedOn", done, ipv6, "socketVlans", inputs, sharing, peers,
        accounts, names, rate, "takeDelay", leads, "usedFor", outputs
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "typeId" text, name text, unit integer, place text,
        firmware text, note text, serial text, "hostName" text, swaps integer, variant text, "runsOn" text, adapter text, system text,
        "systemVersion" text, features text[], sources integer, packed text[], feed text, circuit text, "savedOn" date, done text[],
        ipv6 text, "socketVlans" jsonb, inputs jsonb, sharing text, peers text, accounts jsonb, names jsonb, rate text,
        "takeDelay" integer, leads boolean, "usedFor" text, outputs jsonb)`,
    remove: `delete from device where show_id = $1 and id = any($2)`,
  },
  interfaces: {
    select: `select id, rev, device_id as "deviceId", adapter, mac::text as mac
      from interface where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into interface (show_id, id, rev, device_id, adapter, mac)
      select $1, id, rev, "deviceId", adapter, mac
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, adapter text, mac macaddr)`,
    remove: `delete from interface where show_id = $1 and id = any($2)`,
  },
  addresses: {
    select: `select id, rev, interface_id as "interfaceId", network_id as "networkId", host(ip) as ip, prefix,
        host(gateway) as gateway, held, method
      from address where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into address (show_id, id, rev, interface_id, network_id, ip, prefix, gateway, held, method)
      select $1, id, rev, "interfaceId", "networkId", ip, prefix, gateway, held, method
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "interfaceId" text, "networkId" text, ip inet, prefix integer,
        gateway inet, held boolean, method text)`,
    remove: `delete from address where show_id = $1 and id = any($2)`,
  },
  cables: {
    select: `select id, rev, from_device as "fromDevice", from_socket as "fromSocket", to_device as "toDevice",
        to_socket as "toSocket", medium, grade, stage, length_m as "lengthM",
        delay_ms as "delayMs"
      from cable where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into cable (show_id, id, rev, from_device, from_socket, to_device, to_socket, medium, grade, stage, length_m,
        delay_ms)
      select $1, id, rev, "fromDevice", "fromSocket", "toDevice", "toSocket", medium, grade, stage, "lengthM",
        "delayMs"
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "fromDevice" text, "fromSocket" text, "toDevice" text,
        "toSocket" text, medium text, grade text, stage text, "lengthM" double precision, "delayMs" double precision)`,
    remove: `delete from cable where show_id = $1 and id = any($2)`,
  },
  services: {
    select: `select id, rev, device_id as "deviceId", key, enabled, receive_port as "receivePort",
        send_port as "sendPort", host(send_to) as "sendTo",
        array(select host(ip) from unnest(also_to) with ordinality as each(ip, place) order by place) as "alsoTo", login, role, open_for as "openFor", account, secret_id as "secretId"
      from service where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into service (show_id, id, rev, device_id, key, enabled, receive_port, send_port, send_to, also_to, login,
        role, open_for, account, secret_id)
      select $1, id, rev, "deviceId", key, enabled, "receivePort", "sendPort", "sendTo", "alsoTo", login, role, "openFor", account, "secretId"
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, key text, enabled boolean, "receivePort" integer,
        "sendPort" integer, "sendTo" inet, "alsoTo" inet[], login text, role text, "openFor" text[], account text, "secretId" text)`,
    remove: `delete from service where show_id = $1 and id = any($2)`,
  },
  links: {
    select: `select id, rev, controller_id as "controllerId", target_id as "targetId", service_key as "serviceKey", slot, slot_group as "slotGroup",
        host(host) as host, port, reply_port as "replyPort", account, secret_id as "secretId", label, command, typed,
        "after", must_hold as "mustHold", role, args
      from link where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into link (show_id, id, rev, controller_id, target_id, service_key, slot, slot_group, host, port, reply_port,
        account, secret_id, label, command, typed, "after", must_hold, role, args)
      select $1, id, rev, "controllerId", "targetId", "serviceKey", slot, "slotGroup", host, port, "replyPort", account, "secretId",
        label, command, typed, "after", "mustHold", role, args
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "controllerId" text, "targetId" text, "serviceKey" text,
        slot integer, "slotGroup" integer, host inet, port integer, "replyPort" integer, account text, "secretId" text, label text, command text,
        typed text, "after" text, "mustHold" boolean, role text, args jsonb)`,
    remove: `delete from link where show_id = $1 and id = any($2)`,
  },
  keyedIn: {
    select: `select id, rev, device_id as "deviceId", "values"
      from keyed_in where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into keyed_in (show_id, id, rev, device_id, "values") select $1, id, rev, "deviceId", "values"
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, "values" jsonb)`,
    remove: `delete from keyed_in where show_id = $1 and id = any($2)`,
  },
  progress: {
    select: `select id, rev, device_id as "deviceId", joined, signed_in as "signedIn", shows, due, held, meantime, confirmed,
        taken, "left", log, holds, accepted, adapters
      from progress where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into progress (show_id, id, rev, device_id, joined, signed_in, shows, due, held, meantime, confirmed,
        taken, "left", log, holds, accepted, adapters)
      select $1, id, rev, "deviceId", joined, "signedIn", shows, due, held, meantime, confirmed, taken, "left", log, holds,
        accepted, adapters
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, joined boolean, "signedIn" boolean,
        shows jsonb, due jsonb, held jsonb, meantime jsonb, confirmed jsonb, taken jsonb, "left" jsonb, log jsonb,
        holds integer, accepted jsonb, adapters jsonb)`,
    remove: `delete from progress where show_id = $1 and id = any($2)`,
  },
  documents: {
    select: `select id, rev, model, title, file_id as "fileId", bytes
      from document where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into document (show_id, id, rev, model, title, file_id, bytes)
      select $1, id, rev, model, title, "fileId", bytes
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, model text, title text, "fileId" text, bytes integer)`,
    remove: `delete from document where show_id = $1 and id = any($2)`,
  },
  contacts: {
    select: `select id, rev, name, knows, reach from contact where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into contact (show_id, id, rev, name, knows, reach) select $1, id, rev, name, knows, reach
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, name text, knows text, reach text)`,
    remove: `delete from contact where show_id = $1 and id = any($2)`,
  },
  controls: {
    select: `select id, rev, device_id as "deviceId", label, kind, "row", "column", address, least, greatest, region
      from control where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into control (show_id, id, rev, device_id, label, kind, "row", "column", address, least, greatest, region)
      select $1, id, rev, "deviceId", label, kind, "row", "column", address, least, greatest, region
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, label text, kind text, "row" integer,
        "column" integer, address text, least double precision, greatest double precision, region jsonb)`,
    remove: `delete from control where show_id = $1 and id = any($2)`,
  },
  assignments: {
    select: `select id, rev, device_id as "deviceId", control, layer, part, does, target_id as "targetId",
        service_key as "serviceKey", command, args, drives, transfer, among, number, machine, feedback, label
      from assignment where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into assignment (show_id, id, rev, device_id, control, layer, part, does, target_id, service_key, command,
        args, drives, transfer, among, number, machine, feedback, label)
      select $1, id, rev, "deviceId", control, layer, part, does, "targetId", "serviceKey", command, args, drives, transfer,
        among, number, machine, feedback, label
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, control text, layer integer, part text,
        does text, "targetId" text, "serviceKey" text, command text, args jsonb, drives text, transfer jsonb, among text[],
        number integer, machine text, feedback text, label text)`,
    remove: `delete from assignment where show_id = $1 and id = any($2)`,
  },
  banks: {
    select: `select id, rev, device_id as "deviceId", target_id as "targetId", service_key as "serviceKey", command, channel,
        level, place, "offset", odd
      from bank where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into bank (show_id, id, rev, device_id, target_id, service_key, command, channel, level, place, "offset", odd)
      select $1, id, rev, "deviceId", "targetId", "serviceKey", command, channel, level, place, "offset", odd
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, "targetId" text, "serviceKey" text,
        command text, channel text, level text, place integer, "offset" integer, odd text)`,
    remove: `delete from bank where show_id = $1 and id = any($2)`,
  },
  cues: {
    select: `select id, rev, number, name, controller_id as "controllerId", enabled, starts, messages, note, proved
      from cue where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into cue (show_id, id, rev, number, name, controller_id, enabled, starts, messages, note, proved)
      select $1, id, rev, number, name, "controllerId", enabled, starts, messages, note, proved
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, number double precision, name text, "controllerId" text,
        enabled boolean, starts jsonb, messages jsonb, note text, proved jsonb)`,
    remove: `delete from cue where show_id = $1 and id = any($2)`,
  },
  inputRules: {
    select: `select id, rev, switcher_id as "switcherId", input, goes, leaves, offers, list, channel, measured
      from input_rule where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into input_rule (show_id, id, rev, switcher_id, input, goes, leaves, offers, list, channel, measured)
      select $1, id, rev, "switcherId", input, goes, leaves, offers, list, channel, measured
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "switcherId" text, input integer, goes text, leaves text,
        offers text, list text, channel text, measured jsonb)`,
    remove: `delete from input_rule where show_id = $1 and id = any($2)`,
  },
  clips: {
    select: `select id, rev, device_id as "deviceId", list, place, name, seconds, form, title, actions
      from clip where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into clip (show_id, id, rev, device_id, list, place, name, seconds, form, title, actions)
      select $1, id, rev, "deviceId", list, place, name, seconds, form, title, actions
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "deviceId" text, list text, place integer, name text,
        seconds double precision, form jsonb, title text, actions jsonb)`,
    remove: `delete from clip where show_id = $1 and id = any($2)`,
  },
  timeHops: {
    select: `select id, rev, from_id as "fromId", to_id as "toId", format, says, hears, input
      from time_hop where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into time_hop (show_id, id, rev, from_id, to_id, format, says, hears, input)
      select $1, id, rev, "fromId", "toId", format, says, hears, input
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, "fromId" text, "toId" text, format text, says text,
        hears text, input text)`,
    remove: `delete from time_hop where show_id = $1 and id = any($2)`,
  },
  walls: {
    select: `select id, rev, name, panel, processor_id as "processorId", sender, card, managed, distance_m::float8 as "distanceM", columns, surfaces, parts, numbered_from as "numberedFrom",
        strings, bits, rate, loop, loop_in_file as "loopInFile", volts, phases, program, profile, player, player_output as "playerOutput",
        captured, first_channel as "firstChannel", found, stored
      from wall where show_id = $1 and ($2::text[] is null or id = any($2))`,
    insert: `insert into wall (show_id, id, rev, name, panel, processor_id, sender, card, managed, distance_m, columns, surfaces, parts, numbered_from, strings, bits,
        rate, loop, loop_in_file, volts, phases, program, profile, player, player_output, captured, first_channel, found, stored)
      select $1, id, rev, name, panel, "processorId", sender, card, managed, "distanceM", columns, surfaces, parts, "numberedFrom", strings, bits, rate, loop,
        "loopInFile", volts, phases, program, profile, player, "playerOutput", captured, "firstChannel", found, stored
      from jsonb_to_recordset($2::jsonb) as r(id text, rev integer, name text, panel text, "processorId" text, sender text, card text, managed text, "distanceM" float8, columns jsonb,
        surfaces jsonb, parts jsonb, "numberedFrom" text, strings jsonb, bits integer, rate text, loop boolean,
        "loopInFile" boolean, volts integer, phases integer, program jsonb, profile jsonb, player jsonb, "playerOutput" jsonb, captured jsonb,
        "firstChannel" jsonb, found jsonb, stored boolean)`,
    remove: `delete from wall where show_id = $1 and id = any($2)`,
  },
};
