import { show as core, wall as walls } from '@deep-patch/core';
import { useState } from 'react';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';
import { saveFile } from '../parts/save-file.ts';
import { readProfile, writeProfile } from './profile-file.ts';
import { notPixels } from './not-pixels.ts';
import { useEdit, type PartProps } from './use-edit.ts';

const sets = [
  ['program', 'Set-up program'],
  ['profile', 'Profile of the panels'],
  ['player', 'Player'],
] as const;

/** What somebody read off the set-up program, the profile or the player. */
export function Entered({ own }: Pick<PartProps, 'own'>) {
  const edit = useEdit(own);
  const [who, setWho] = useState<(typeof sets)[number][0]>('program');
  const { wall, panel } = own;
  const set = wall[who];
  const put = (patch: Partial<walls.WallSet>) => edit(who, { [who]: { ...set, ...patch } });
  const truth = walls.truthOf(wall, panel);
  const { loaded } = walls.loadProfile(wall, truth);
  return (
    <section className="grid content-start gap-2" aria-label="What is entered">
      <h2 className="font-bold">What is entered</h2>
      <ChoiceField label="Read off the" value={who} options={sets} onKeep={(key) => setWho(key as typeof who)} />
      <SetFields key={who} set={set} onPut={put} />
      <div className="flex flex-wrap gap-2">
        {who === 'program' && (
          <button
            type="button"
            className="act"
            onClick={() => edit('profile loaded', { program: loaded, stored: false })}
          >
            Load the profile over it
          </button>
        )}
        {who === 'profile' && (
          <ProfileFile {...{ own, set }} onRead={(read) => edit('profile read', { profile: read })} />
        )}
        <button type="button" className="act-quiet" onClick={() => put(truth)}>
          As on the panel and the wall
        </button>
      </div>
    </section>
  );
}

/** The profile as a file: read whole or not at all, and saved. */
function ProfileFile({
  own,
  set,
  onRead,
}: Pick<PartProps, 'own'> & { readonly set: walls.WallSet; readonly onRead: (set: walls.WallSet) => void }) {
  const [faults, setFaults] = useState<readonly string[]>([]);
  const take = async (file: File) => {
    const read = readProfile(await file.text());
    setFaults('faults' in read ? read.faults : []);
    if ('set' in read) onRead(read.set);
  };
  return (
    <>
      <label className="act">
        Read a file
        <input
          type="file"
          accept=".json"
          className="sr-only"
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = '';
            if (file) void take(file);
          }}
        />
      </label>
      <button
        type="button"
        className="act"
        onClick={() => saveFile(`${own.type.name} profile.json`, writeProfile(own.type.name, set), 'application/json')}
      >
        Save as a file
      </button>
      {faults.length > 0 && (
        <ul className="w-full text-[13px] text-error" role="alert">
          {faults.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      )}
    </>
  );
}

function SetFields({
  set,
  onPut: put,
}: {
  readonly set: walls.WallSet;
  readonly onPut: (patch: Partial<walls.WallSet>) => void;
}) {
  return (
    <div className="grid grid-cols-3 gap-2">
      {(['width', 'height'] as const).map((key) => (
        <NumberField
          key={key}
          label={key === 'width' ? 'Width' : 'Height'}
          value={set[key]}
          onKeep={(value) => put({ [key]: value })}
          refuse={notPixels}
          wrong="whole pixels"
        />
      ))}
      <ChoiceField
        label="Scan"
        value={String(set.scan ?? '')}
        options={[['', '?'], ...walls.scans.map((scan) => [String(scan), `1/${scan}`] as const)]}
        onKeep={(scan) => put({ scan: scan === '' ? null : Number(scan) })}
      />
      <ChoiceField
        label="Colour order"
        value={set.colours ?? ''}
        options={[['', '?'], ...core.colourOrders.map((order) => [order, order] as const)]}
        onKeep={(order) => put({ colours: order === '' ? null : (order as walls.Module['colours']) })}
      />
      <ChoiceField
        label="Data from the"
        value={set.dataFrom ?? ''}
        options={[['', '?'], ...core.dataSides.map((side) => [side, side] as const)]}
        onKeep={(side) => put({ dataFrom: side === '' ? null : (side as walls.Module['dataFrom']) })}
      />
    </div>
  );
}
