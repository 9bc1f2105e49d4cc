import { readMtc } from '@deep-patch/codecs';
import { timecode } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';
import { useBenchPart } from '../live/bench-store.ts';
import { faceOf } from '../live/face-of.ts';
import { useShow } from '../live/workspace.tsx';

/** Digits from a MIDI input of this computer, as they come: drawn as often as the screen is, and never behind. */
export function LiveMidi() {
  const [inputs, setInputs] = useState<readonly MIDIInput[]>();
  const [chosen, setChosen] = useState('');
  const [fault, setFault] = useState<string>();
  const ask = () => {
    if (!('requestMIDIAccess' in navigator)) setFault('This browser knows no MIDI inputs.');
    else
      navigator.requestMIDIAccess().then(
        (access) => setInputs([...access.inputs.values()]),
        () => setFault('The browser gives no MIDI inputs: allow them for this page.'),
      );
  };
  const input = inputs?.find(({ id }) => id === chosen);
  return (
    <div className="flex flex-wrap items-center gap-3">
      {inputs === undefined ? (
        <button type="button" className="act" onClick={ask}>
          Listen to a MIDI input
        </button>
      ) : inputs.length === 0 ? (
        <p className="text-mute">This computer has no MIDI input.</p>
      ) : (
        <label className="flex items-center gap-2">
          MIDI input
          <select className="field-select w-56" value={chosen} onChange={(event) => setChosen(event.target.value)}>
            <option value="">choose…</option>
            {inputs.map(({ id, name }) => (
              <option key={id} value={id}>
                {name ?? id}
              </option>
            ))}
          </select>
        </label>
      )}
      {input && <Digits key={input.id} input={input} />}
      {fault && <p className="text-error">{fault}</p>}
    </div>
  );
}

/** Digits of a unit on the bench that hears time code: from the bench itself, or from an outside program through its jack. */
export function BenchDigits() {
  const show = useShow();
  const [chosen, setChosen] = useState('');
  const hearing = useBenchPart((state) =>
    (state?.standins ?? [])
      .filter(({ status, face }) => status === 'up' && face.some(([name]) => name === 'time code'))
      .map(({ deviceId }) => deviceId)
      .join(' '),
  );
  const jack = useBenchPart((state) => state?.jacks.find(({ deviceId }) => deviceId === chosen)?.port);
  const digits = useBenchPart((state) => faceOf(state?.standins, chosen, 'time code'));
  const units = (hearing ?? '').split(' ').filter(Boolean);
  if (units.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <label className="flex items-center gap-2">
        A unit on the bench
        <select className="field-select w-56" value={chosen} onChange={(event) => setChosen(event.target.value)}>
          <option value="">choose…</option>
          {units.map((id) => (
            <option key={id} value={id}>
              {show.devices[id]?.name ?? id}
            </option>
          ))}
        </select>
      </label>
      {chosen !== '' && (
        <>
          <p className="font-mono text-3xl font-bold text-success" role="timer">
            {digits === undefined || digits === 'none' ? '--:--:--:--' : digits}
          </p>
          <p className="text-[13px] text-mute">
            {jack === undefined
              ? 'Open its jack on the bench, and an outside program can send it time code.'
              : `Its jack is open at 127.0.0.1, port ${jack}.`}
          </p>
        </>
      )}
    </div>
  );
}

function Digits({ input }: { readonly input: MIDIInput }) {
  const place = useRef<HTMLParagraphElement>(null);
  useEffect(() => {
    const reader = new timecode.MidiReader();
    const hear = ({ data, timeStamp }: MIDIMessageEvent) => {
      const piece = data && readMtc([...data]);
      if (piece?.kind === 'quarter') reader.quarter(timeStamp / 1000, piece.piece, piece.value);
      else if (piece) reader.full(timeStamp / 1000, piece.time.rate, piece.time);
    };
    input.addEventListener('midimessage', hear);
    let frame = 0;
    const draw = () => {
      // past React: only these figures change, sixty times a second
      if (place.current)
        place.current.textContent = reader.now ? timecode.timeWords(reader.now, reader.rate) : '--:--:--:--';
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => {
      cancelAnimationFrame(frame);
      input.removeEventListener('midimessage', hear);
    };
  }, [input]);
  return <p ref={place} className="font-mono text-3xl font-bold text-success" role="timer" />;
}
