import { analyse, show as core, type findings, type Show } from '@deep-patch/core';
import { expect, test } from 'vitest';
import { demoShow } from '../index.ts';
import { randomRig, rotatingSeed } from './index.test-data.ts';

/** How bad a crew calls each thing that is found: what stops a show, what may, and what is worth knowing. */
const grades: Readonly<Record<findings.Grade, readonly string[]>> = {
  stops: [
    'duplicate_ip network_address broadcast_address outside_subnet unusable_kind on_gateway loop too_long slot_shared',
    'cable_no_service cable_no_adapter cable_both_unplugged cable_controller_unplugged cable_target_unplugged cable_too_long',
    'segment_apart segment_other_vlan segment_flooded',
    'address_aims_away address_aims_elsewhere address_loopback_elsewhere address_nobody_answers address_not_a_host',
    'address_not_known address_not_passed_on address_answer_not_passed_on address_answer_elsewhere address_not_placed address_on_no_network',
    'address_one_way address_other_subnet address_two_owners',
    'port_both_wait port_both_open port_opens_nowhere port_opens_elsewhere port_opens_other_port port_waiting_port_taken port_session_port_taken',
    'port_interchanged port_other_adapter port_other_port port_slip port_still_default port_switched_off port_two_listeners',
    'service_cannot_speak access_account_differs access_missing access_password_differs access_not_open_for',
    'message_argument_count message_argument_range message_argument_spelling message_argument_type message_not_a_message',
    'message_unknown_command',
    'surface_no_way bank_no_way command_gone value_unfit control_unfit client_scope',
    'cue_target_gone cue_no_way cue_value_unfit cue_circle',
    'time_cannot_give time_cannot_take time_name_differs time_rate_differs time_no_session time_merger_needed',
    'time_circle time_makes_nothing list_unknown channel_unknown',
    'wall_panel_unknown wall_undivided wall_panels_missed wall_panels_doubled wall_output_full wall_count_short',
    'wall_program_differs wall_player_differs wall_order_behind wall_channels_meet wall_sender_is_card wall_card_other',
    'wall_managed_afar wall_output_other wall_output_off wall_output_corner',
    'reply_no_way_back reply_other_reply_port reply_replies_elsewhere reply_reply_port_taken',
  ],
  risky: [
    'gateway_missing gateway_outside in_pool mask_differs networks_overlap no_grant no_room no_server not_granted',
    'on_factory on_reserved pool_outside pool_reversed pool_small pool_unserved second_needs_fixed two_adapters',
    'link_local_mask sockets_short wrong_socket gateway_in_pool own_gateway self_outside',
    'wrong_network cables_interchanged led_in_switch computer_in_led radio_short platform_too_new doubled_serial',
    'access_left_open access_not_required access_open_but_filled address_depends_on_lease message_none_chosen',
    'port_starts_first segment_wireless_hop service_version_below service_version_unclear service_version_unknown',
    'doubled_name doubled_unit doubled_mac feature_below feed_no_switch feed_unfit name_shared no_computer',
    'peers_apart control_gone two_meanings moves_little sends_beyond without_counterpart essential_missing banks_overlap',
    'cue_command_unknown cue_does_not_trigger cue_name_unknown cue_name_doubled cue_number_shared cue_fires_twice cue_too_fast',
    'partner_versions gateways_short stations_share parts_moved platform_other_system platform_too_old seats_short too_many_sources',
    'input_kind_differs channel_doubled take_delay_short list_follows_selection action_beyond clip_unplayable',
    'time_input_shared time_who_leads time_station_outside',
    'wall_outputs_short wall_string_differs wall_count_long wall_panel_errors wall_versions_differ wall_capture_differs wall_loop_off wall_units_short wall_output_due',
    'too_many_controllers accessory_missing firmware_below chain_too_deep too_long_for_rate native_differs socket_other_vlan input_differs input_doubled',
  ],
  note: [
    'block_outside block_tight factory_inside gateway_idle network_tight on_no_network pool_over_block public_range',
    'input_label_doubled action_runs_over actions_close not_frame_accurate time_no_rate wall_not_stored wall_functions_wait',
    'waiting ipv6_on alike_differ alike_pair converter_needed feature_unclear feature_unknown known_login names_differ newer_hidden',
    'control_lossy lamp_unlabelled lamp_none lamp_one_colour destination_doubled banks_gap banks_beyond odd_unassigned',
    'no_copy on_battery partner_unknown platform_unknown platform_unsaid seats_idle grade_unknown lengths_unknown loop_held several_writers',
  ],
};
/** Worth knowing of what nobody needs yet, risky once somebody does. */
const either: ReadonlySet<string> = new Set(['firmware_below', 'accessory_missing', 'parts_moved']);

const gradeOf = new Map(
  Object.entries(grades).flatMap(([grade, lines]) =>
    lines.flatMap((line) => line.split(' ')).map((code) => [code, grade] as const),
  ),
);

test('what is found on random rigs and in the demo show is as bad as a crew calls it', () => {
  const seed = rotatingSeed();
  const seen = new Set<string>();
  const judge = (show: Show, name: string) => {
    for (const { code, grade, stoppedLinks } of analyse(show, core.nothingSeen, 0).findings) {
      seen.add(code);
      // whatever stops a link that somebody wants stops, and either way is a note or a risk
      const right = stoppedLinks ? 'stops' : gradeOf.get(code);
      const fits = grade === right || (either.has(code) && grade === 'note');
      expect([name, code, grade, fits]).toEqual([name, code, grade, true]);
    }
  };
  judge(demoShow(), 'demo');
  for (let at = 0; at < 400; at += 1) judge(randomRig(seed + at).show, `RIG_SEED=${seed + at}`);
  expect(seen.size).toBeGreaterThan(60);
}, 300_000);
