import type { Stream } from '../ether/tcp.ts';
import { until, type SoundRequest, type Talk } from './steps.ts';

/** The last segment of a handshake may still be under way when the far end has it open. */
const handshakeMs = 400;

/**
 * The connection of a link, whichever end opens it: the controller to the target's port, or the target to where the
 * controller waits. Else why there is none: nobody opened it, or it was refused.
 */
export async function streamTo(
  { link }: SoundRequest,
  { controller, target, ip }: Pick<Talk, 'controller' | 'target' | 'ip'>,
): Promise<Stream | 'refused' | 'silent' | 'not_opened'> {
  const { tcp, scheduler } = controller.host;
  if (link.role === 'opens') return tcp.connect(ip, link.port);
  let came: Stream | undefined;
  const close = tcp.listen(link.port, (stream) => (came ??= stream));
  if (!close) return 'refused';
  try {
    const outcome = (await target.openers.get(link.serviceKey)?.()) ?? 'not_opened';
    if (outcome !== 'open') return outcome;
    await until(scheduler, handshakeMs, () => came !== undefined);
    return came ?? 'not_opened';
  } finally {
    close();
  }
}
