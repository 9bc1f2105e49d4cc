import type { Finding, Words } from '../findings/index.ts';
import type { LayerResult } from './layer.ts';
import { some } from './some.ts';

/** What stops or endangers a link at one layer, why, and the next step. */
export function stopWords({ layer, code, facts: f }: Pick<LayerResult, 'layer' | 'code' | 'facts'>): Words {
  const { controller, target } = f;
  const table: Readonly<Record<string, readonly [string, string, string]>> = {
    'cable no_service': [
      `The target has no such service.`,
      'Its type was changed, or it was taken out.',
      'Remove the link and add it again.',
    ],
    'cable no_adapter': [
      `One end has no network adapter.`,
      'There is nothing to plug a cable into.',
      'Choose a type with an adapter, or add an expansion.',
    ],
    'cable both_unplugged': [
      `Neither ${controller} nor ${target} is plugged in.`,
      'Nothing can pass between them.',
      'Plug both into one switch.',
    ],
    'cable controller_unplugged': [
      `${controller} is not plugged in.`,
      'It can send to nobody.',
      'Plug it into the switch of the target.',
    ],
    'cable target_unplugged': [
      `${target} is not plugged in.`,
      'It hears nobody.',
      'Plug it into the switch of the controller.',
    ],
    'cable too_long': [
      `The ${f['medium']} run is ${f['lengthM']} m long; ${f['mostM']} m is the most.`,
      'No link comes up on it.',
      'Lay fibre, or put a switch half way.',
    ],
    'segment apart': [
      'No cable leads from one to the other.',
      'They sit on separate switches, so neither discovery nor a direct message gets across.',
      'Join the two switches.',
    ],
    'segment other_vlan': [
      `${controller} ends up in VLAN ${some(f['leftVlan'])}, ${target} in VLAN ${some(f['rightVlan'])}.`,
      'The switches keep them apart, whatever their addresses say.',
      'Plan both on one network, or on networks of one VLAN.',
    ],
    'segment wireless_hop': [
      'The way goes over wireless.',
      'Delay varies and packets get lost; a trigger may come late.',
      'Use a cable where a socket exists, else allow for the delay.',
    ],
    'address not_placed': [
      'One end has no address yet.',
      'There is nothing to send to.',
      'Place the waiting addresses.',
    ],
    'address aims_elsewhere': [
      `${controller} aims at ${f['entered']}; ${target} is planned at ${f['ip']}.`,
      f['slip'] ? `One figure is ${f['slip']}.` : 'The target was moved, or the entry was never right.',
      'Aim it at the planned address.',
    ],
    'address two_owners': [
      `${f['name']} and ${f['other']} share ${f['ip']}.`,
      'Whichever answers first takes the controls.',
      'Move one of them.',
    ],
    'address not_a_host': [
      `${f['name']} has ${f['ip']}, which names the network or everybody on it.`,
      'No unit can own it.',
      'Move it.',
    ],
    'address not_known': [
      `${f['name']} gets its address ${f['method'] === 'dhcp' ? 'from the server' : 'by itself'}, so nobody knows it beforehand.`,
      `What is keyed into ${controller} today may belong to another unit tomorrow.`,
      'Give it a fixed address, or reserve one for it at the server.',
    ],
    'address aims_away': [
      `${controller} and ${target} run on one machine, but ${f['entered']} is another.`,
      'Messages leave the machine and do not come back.',
      'Use 127.0.0.1.',
    ],
    'address loopback_elsewhere': [
      `${controller} sends to ${f['entered']}, which is always the machine it runs on.`,
      `${target} is on another machine.`,
      f['ip'] ? `Aim it at ${f['ip']}.` : 'Aim it at the address of the target.',
    ],
    'address one_way': [
      'Only one side sees the other in its subnet.',
      'The masks differ: requests arrive and answers do not, or the reverse.',
      'Give both the same mask.',
    ],
    'address other_subnet': [
      `${f['left']} and ${f['right']} are in different subnets.`,
      'Without a router nothing passes between them.',
      'Move one end into the network of the other.',
    ],
    'port interchanged': [
      `${controller} sends to ${f['asks']}, the port that ${target} sends from.`,
      `${target} listens on ${f['listens']}. Its sending port is only for what leaves it.`,
      `Send to ${f['listens']}.`,
    ],
    'port still_default': [
      `${controller} still sends to the type’s default ${f['asks']}.`,
      `On this unit the port was changed to ${f['listens']}.`,
      `Send to ${f['listens']}.`,
    ],
    'port slip': [
      `${controller} sends to ${f['asks']}; ${target} listens on ${f['listens']}.`,
      `One figure is ${f['slip']}.`,
      `Send to ${f['listens']}.`,
    ],
    'port other_port': [
      `${controller} sends to ${f['asks']}; ${target} listens on ${f['listens']}.`,
      'Messages leave and nothing happens.',
      `Send to ${f['listens']}.`,
    ],
    'port two_listeners': [
      `Two services of ${target} want ${f['transport']} ${f['listens']}: this one and ${f['other']}.`,
      'Only the one that starts first gets it.',
      'Give one of them another port.',
    ],
    'service cannot_speak': [
      `${controller} does not speak ${f['protocol']}.`,
      'Its type has no such output.',
      'Choose another controller or another service.',
    ],
    'service switched_off': [
      `${f['label']} is switched off at ${target}.`,
      'It listens to nothing until somebody turns it on.',
      'Turn it on in its own menu.',
    ],
    'service version_below': [
      `${target} runs ${f['firmware']}; ${f['label']} asks for ${f['lowest']}.`,
      'The function may be missing.',
      'Update it before the show.',
    ],
    'service version_unknown': [
      `Nobody wrote down the version of ${target}.`,
      `${f['label']} asks for ${f['lowest']} or later.`,
      'Read it from its own menu.',
    ],
    'service version_unclear': [
      `The version ${f['firmware']} of ${target} cannot be compared.`,
      `${f['label']} asks for ${f['lowest']} or later.`,
      'Check it by hand.',
    ],
    'access missing': [
      `${target} asks for a login and ${controller} has none.`,
      'It will be turned away.',
      'Enter the login of the target.',
    ],
    'access account_differs': [
      `${controller} logs in under another account than ${target} knows.`,
      'It will be turned away.',
      `Use the account ${some(f['account'])}.`,
    ],
    'access password_differs': [
      'The two passwords differ.',
      `${target} turns ${controller} away. Everything below waits on this.`,
      'Send the target’s login to the controller.',
    ],
    'access open_but_filled': [
      `${controller} sends a login that ${target} does not ask for.`,
      'Some units turn that away.',
      'Leave both fields empty, or set a login on the target.',
    ],
    'access not_required': [
      `${controller} sends a login that ${target} does not ask for.`,
      'Some units turn that away.',
      'Leave both fields empty.',
    ],
    'access left_open': [
      `Anybody on the network may control ${target}.`,
      'It offers a login and none is set.',
      'Set an account and a password on it.',
    ],
    'message none_chosen': [
      'No test message is chosen.',
      'The link cannot be proven by effect.',
      'Choose a harmless one.',
    ],
    'message unknown_command': [
      `${target} does not know this command.`,
      'It would drop the message without a word.',
      'Choose one from its list.',
    ],
    'message argument_count': [
      `The message has ${f['given']} of the ${f['wanted']} arguments that it needs.`,
      `${target} would drop it without a word.`,
      'Use the example.',
    ],
    'message argument_type': [
      `${f['name']} has the wrong type.`,
      'A number sent as text does not trigger.',
      'Use the example.',
    ],
    'message argument_range': [
      `${f['name']} is ${f['value']}; it goes from ${f['range']}.`,
      `${target} would drop or clip it.`,
      'Use a value within the range.',
    ],
    'reply no_way_back': [
      `${target} was not told where to send replies.`,
      'Commands work, but nothing comes back to light a lamp.',
      'Enter the controller’s address in it.',
    ],
    'reply replies_elsewhere': [
      `${target} sends replies to ${f['sendTo']}; ${controller} is at ${some(f['ip'], 'no address')}.`,
      f['slip'] ? `One figure is ${f['slip']}.` : 'It still holds an older address.',
      'Enter the controller’s address in it.',
    ],
    'reply other_reply_port': [
      `${target} sends replies to port ${f['sends']}; ${controller} hears on ${some(f['hears'], 'none')}.`,
      'The replies arrive at a closed door.',
      `Listen on ${f['sends']}.`,
    ],
  };
  const [what, why, fix] = table[`${layer} ${code}`] ?? [`${layer}: ${code}`, '', ''];
  return { what, why, fix };
}

export function linkWords({ facts, code }: Finding): Words {
  const layer = String(facts['layer']) as LayerResult['layer'];
  const words = stopWords({ layer, code: code.slice(layer.length + 1), facts });
  return { ...words, what: `${String(facts['controller'])} → ${String(facts['target'])}: ${words.what}` };
}
