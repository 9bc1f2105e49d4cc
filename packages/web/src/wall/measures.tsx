import { wall as walls } from '@deep-patch/core';
import { useState } from 'react';
import { useShow } from '../live/workspace.tsx';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';
import { notPixels } from './not-pixels.ts';
import { useEdit, type PartProps } from './use-edit.ts';

/** Where the picture comes from: a part of a desktop, and the first data channel of the player. */
export function Sent({ own, size }: PartProps) {
  const edit = useEdit(own);
  const { captured, firstChannel } = own.wall;
  const area = captured ?? { x: 0, y: 0, width: size.width, height: size.height };
  const put = (patch: Partial<typeof area>) => edit('captured part', { captured: { ...area, ...patch } });
  const place = firstChannel ?? { universe: 1, channel: 1 };
  const fields = [
    ['x', 'From the left'],
    ['y', 'From the top'],
    ['width', 'Pixels across'],
    ['height', 'Pixels down'],
  ] as const;
  return (
    <section className="grid content-start gap-2" aria-label="What is sent">
      <h2 className="font-bold">What is sent</h2>
      <div className="grid grid-cols-2 gap-2">
        {fields.map(([key, label]) => (
          <NumberField
            key={key}
            label={`${label} of the desktop`}
            value={captured?.[key] ?? null}
            refuse={notPixels}
            wrong="whole pixels"
            onKeep={(value) => put({ [key]: value ?? 0 })}
          />
        ))}
        <NumberField
          label="First universe"
          value={firstChannel?.universe ?? null}
          refuse={(value) => !Number.isInteger(value) || value < 1 || value > 63_999}
          onKeep={(universe) =>
            edit('first channel', { firstChannel: universe === null ? null : { ...place, universe } })
          }
        />
        <NumberField
          label="First channel in it"
          value={firstChannel?.channel ?? null}
          refuse={(value) => !Number.isInteger(value) || value < 1 || value > walls.channelsOfUniverse}
          onKeep={(channel) => edit('first channel', { firstChannel: channel === null ? null : { ...place, channel } })}
        />
      </div>
      <button
        type="button"
        className="act-quiet justify-self-start"
        onClick={() => put({ width: size.width, height: size.height })}
      >
        Exactly the wall
      </button>
    </section>
  );
}

/** The same metres of another panel: by how much content and load grow (need 10.17). */
export function OtherPanel({ own: { wall, type }, size }: PartProps) {
  const show = useShow();
  const edit = useEdit({ wall });
  const [model, setModel] = useState('');
  const others = walls.panelModels(show).filter((one) => one.type.model !== wall.panel);
  const other = others.find((one) => one.type.model === model)?.type;
  const grown = other?.panel && walls.growth(size, walls.wallSize(wall, other.panel));
  return (
    <section className="grid content-start gap-2" aria-label="With another panel">
      <h2 className="font-bold">With another panel</h2>
      <ChoiceField
        label="Kind of panel"
        value={model}
        options={[['', type.name], ...others.map((one) => [one.type.model, one.type.name] as const)]}
        onKeep={setModel}
      />
      {other && grown !== undefined && grown !== null && (
        <>
          <p className="text-[13px] text-mute">
            {grown >= 1 ? `${round(grown)} times` : `${round(grown * 100)} % of`} the pixels: content has to be made
            anew, and rendering takes {grown >= 1 ? 'longer' : 'less'} by as much.
          </p>
          <button
            type="button"
            className="act justify-self-start"
            onClick={() => edit(`made of ${other.name}`, { panel: other.model, stored: false })}
          >
            Make the wall of it
          </button>
        </>
      )}
    </section>
  );
}

const round = (value: number) => value.toLocaleString('en-GB', { maximumFractionDigits: 2 });

/** What follows from it: power, distance, channels, spares. */
export function Measures({ own: { wall, panel }, size }: PartProps) {
  const last = wall.firstChannel && walls.lastChannel(wall.firstChannel, size.litPixels);
  const facts: readonly (readonly [string, string])[] = [
    ['kilowatts, all white', (size.watts / 1000).toFixed(1)],
    [wall.phases === 3 ? 'amperes of each phase' : 'amperes', size.amps.toFixed(1)],
    ['amperes when all start at once', size.startAmps === null ? 'nobody has said' : size.startAmps.toFixed(0)],
    ['pitch', `${(panel.widthMm / panel.width).toFixed(2)} mm`],
    ['seen as one from', `${size.distanceM.toFixed(1)} m`],
    ['spare panels', String(size.spares)],
    ...(Math.abs(size.chordM - size.widthM) > 0.001
      ? [['straight from end to end', `${size.chordM.toFixed(2)} m`] as const]
      : []),
    ...(last ? [['last data channel', `${last.universe}.${last.channel}`] as const] : []),
  ];
  return (
    <section className="grid content-start gap-1 text-[13px]" aria-label="What follows from it">
      <h2 className="font-bold">What follows from it</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4 gap-y-0.5">
        {facts.map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-mute">{label}</dt>
            <dd className="key-num text-right">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
