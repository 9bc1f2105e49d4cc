import { addressOf, type SoundRequest, type Talk } from '../steps.ts';
import { asksOf } from '../asks-of.ts';
import type { Ear } from '../protocol.ts';
import { agentOf } from './agent.ts';
import { loginOf } from './sound-web.ts';
import { requestWeb } from './web-client.ts';

const askEveryMs = 1000;

/**
 * Over HTTP nobody tells anything by itself: a controller that shows a state asks for it every second, with the commands
 * that the type names for that. It ends with the first question that is not answered.
 */
export async function askWeb(request: SoundRequest, talk: Talk, ear: Ear): Promise<(() => void) | undefined> {
  const { type, controller, ip } = talk;
  const asks = asksOf(type);
  if (asks.length === 0) return undefined;
  const { scheduler } = controller.host;
  let isOver = false;
  let cancel: () => void = () => undefined;
  const round = async (): Promise<void> => {
    for (const command of asks) {
      const path = addressOf(command, { ...request.link, args: [] }, 'http');
      const outcome = await requestWeb(controller.host, {
        ...{ ip, port: request.link.port, method: command.method ?? 'GET', path, body: {} },
        ...{ login: loginOf(request), agent: agentOf(controller) },
      });
      if (isOver) return;
      if (typeof outcome === 'string' || outcome.status !== 200) {
        isOver = true;
        ear.ended();
        return;
      }
      const { state } = outcome.body;
      const told = Object.entries(typeof state === 'object' && state !== null ? state : {});
      ear.tell(
        path,
        told.map(([parameter, value]) => ({ parameter, value: String(value) })),
      );
    }
    cancel = scheduler.after(askEveryMs, () => void round());
  };
  await round();
  if (isOver) return undefined;
  return () => {
    isOver = true;
    cancel();
  };
}
