import type { timecode } from '@deep-patch/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import earsUrl from './microphone.worklet.ts?worker&url';
import type { SoundAnswer, SoundJob } from './read-sound.worker.ts';

export interface SoundRead extends Omit<Extract<SoundAnswer, { say: 'done' }>, 'say'> {
  readonly name: string;
}
export interface SoundState {
  readonly name: string;
  /** Undefined while nothing is read. */
  readonly share: number | undefined;
  readonly isListening: boolean;
  readonly now: timecode.CodeTime | undefined;
  readonly read: SoundRead | undefined;
  readonly fault: string | undefined;
}

const idle: SoundState = {
  name: '',
  share: undefined,
  isListening: false,
  now: undefined,
  read: undefined,
  fault: undefined,
};

/** Reads linear time code from a file or the microphone, beside the screen. */
export function useSound() {
  const [state, setState] = useState<SoundState>(idle);
  const worker = useRef<Worker>(undefined);
  const ears = useRef<Ears>(undefined);
  const closeEars = useCallback(() => {
    if (ears.current) shutEars(ears.current);
    ears.current = undefined;
  }, []);
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
    closeEars();
    setState((known) => ({ ...known, share: undefined, isListening: false }));
  }, [closeEars]);
  useEffect(() => stop, [stop]);

  const start = useCallback(
    (name: string, onAnswer?: (answer: SoundAnswer) => boolean): Worker => {
      stop();
      const own = new Worker(new URL('./read-sound.worker.ts', import.meta.url), { type: 'module' });
      worker.current = own;
      own.onmessage = ({ data }: MessageEvent<SoundAnswer>) => {
        if (!onAnswer?.(data)) setState((known) => taken(known, data));
      };
      own.onerror = () => setState({ ...idle, name, fault: 'The reader ended: load the page anew.' });
      setState({ ...idle, name, share: 0 });
      return own;
    },
    [stop],
  );

  const readFile = useCallback(
    (file: File) => {
      const own: Worker = start(file.name, (answer) => {
        // what is no WAV the browser may be able to unpack itself
        if (answer.say !== 'nothing' || answer.isWav) return false;
        const fail = () => setState({ ...idle, name: file.name, fault: `${answer.fault} ${notUnpacked}` });
        void unpacked(file).then((samples) => own.postMessage(samples), fail);
        return true;
      });
      own.postMessage({ do: 'file', file } satisfies SoundJob);
    },
    [start],
  );

  const listen = useCallback(async () => {
    const own = start('the microphone');
    const hear = (samples: Float32Array, sampleRate: number) => own.postMessage(job(samples, sampleRate, false));
    ears.current = await openEars(hear).catch(() => undefined);
    if (ears.current) setState({ ...idle, name: 'the microphone', isListening: true });
    else setState({ ...idle, fault: noMicrophone });
  }, [start]);

  const endListening = useCallback(() => {
    const sampleRate = ears.current?.context.sampleRate ?? 48_000;
    closeEars();
    worker.current?.postMessage(job(new Float32Array(0), sampleRate, true));
  }, [closeEars]);
  return { state, readFile, listen, endListening, stop };
}

const job = (samples: Float32Array, sampleRate: number, isLast: boolean): SoundJob => ({
  do: 'samples',
  ...{ sampleRate, samples, isLast },
});

function shutEars({ context, stream }: Ears): void {
  for (const track of stream.getTracks()) track.stop();
  void context.close();
}

const notUnpacked = 'The browser cannot unpack it either.';
const noMicrophone = 'The browser gives no microphone: allow it for this page, and plug one in.';

interface Ears {
  readonly context: AudioContext;
  readonly stream: MediaStream;
}

/** Opens the microphone; whatever makes voices clear would spoil time code. Rejects where there is none. */
async function openEars(onSamples: (samples: Float32Array, sampleRate: number) => void): Promise<Ears> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  });
  const context = new AudioContext();
  await context.audioWorklet.addModule(earsUrl);
  const node = new AudioWorkletNode(context, 'ears');
  node.port.onmessage = ({ data }: MessageEvent<Float32Array>) => onSamples(data, context.sampleRate);
  context.createMediaStreamSource(stream).connect(node);
  return { context, stream };
}

function taken(known: SoundState, answer: SoundAnswer): SoundState {
  switch (answer.say) {
    case 'progress':
      return { ...known, share: answer.share };
    case 'now':
      return { ...known, now: answer.time };
    case 'nothing':
      return { ...idle, name: known.name, fault: answer.fault };
    case 'done': {
      const { say: _, ...read } = answer;
      return { ...idle, name: known.name, read: { ...read, name: known.name } };
    }
  }
}

/** Any other sound that the browser can unpack, as samples of one channel. */
async function unpacked(file: File): Promise<SoundJob> {
  const context = new OfflineAudioContext(1, 1, 48_000);
  const sound = await context.decodeAudioData(await file.arrayBuffer());
  return { do: 'samples', sampleRate: sound.sampleRate, samples: sound.getChannelData(0).slice(), isLast: true };
}
