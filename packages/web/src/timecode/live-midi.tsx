import { readMtc } from '@deep-patch/codecs';
import { timecode } from '@deep-patch/core';
import { useEffect, useRef, useState } from 'react';

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
