import { onair, show as core } from '@deep-patch/core';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useBenchPart } from '../live/bench-store.ts';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { Empty } from '../parts/empty.tsx';
import { FindingCard } from '../parts/finding-card.tsx';
import { ChoiceField, TextField } from '../parts/kept-fields.tsx';
import { ClipPanel } from './clip-panel.tsx';
import { ClipTable } from './clip-table.tsx';
import { FolderDialog } from './folder-dialog.tsx';
import { faceOf } from '../live/face-of.ts';

/** The lists of each player, from watched folders or by hand, with what stands in their way. */
export function ListsView() {
  const show = useShow();
  const { showId } = useWorkspace();
  const players = core
    .rowsOf(show, 'devices')
    .filter((device) => onair.isPlayer(show, device))
    .sort(core.byName);
  const [query] = useSearchParams();
  const player = players.find(({ id }) => id === query.get('player')) ?? players[0];
  if (player) return <PlayerLists {...{ players, player }} />;
  return (
    <Empty text="Players have lists of clips. Put a playout machine into the rig first.">
      <Link to={`/shows/${showId}/rig?do=add`} className="act-main">
        Add a player
      </Link>
    </Empty>
  );
}

interface PlayerProps {
  readonly players: readonly core.Device[];
  readonly player: core.Device;
}

function PlayerLists({ players, player }: PlayerProps) {
  const show = useShow();
  const [query, setQuery] = useSearchParams();
  const [folder, setFolder] = useState(false);
  const lists = onair.listsOf(show, player.id);
  const list = query.get('list') || ([...lists.keys()][0] ?? '');
  const items = lists.get(list) ?? [];
  const clip = show.clips[query.get('clip') ?? ''];
  const playing = usePlaying(player.id, items);
  const choose = (patch: Record<string, string>) => setQuery({ see: 'lists', player: player.id, list, ...patch });
  const follow = () => setFolder(true);
  return (
    <div className="beside border-t border-rule">
      <div className="flex min-w-0 flex-1 flex-col">
        <ListTools {...{ players, player, lists, list }} onChoose={choose} onFollow={follow} />
        {items.length === 0 ? (
          <NoItems list={list} onFollow={follow} />
        ) : (
          <ClipTable {...{ items, player, playing }} chosen={clip?.id} onChoose={(id) => choose({ clip: id })} />
        )}
      </div>
      {clip && <ClipAside key={clip.id} clip={clip} />}
      {folder && (
        <FolderDialog
          {...{ player, playing }}
          list={list || 'Main'}
          onClose={() => setFolder(false)}
          onDone={(name) => choose({ list: name })}
        />
      )}
    </div>
  );
}

/** The item that plays on the bench just now. */
function usePlaying(playerId: string, items: readonly core.Clip[]): string | undefined {
  const plays = useBenchPart((known) => faceOf(known?.standins, playerId, 'clip'));
  const number = /^playing (\d+)$/.exec(plays ?? '')?.[1];
  return number === undefined ? undefined : items[Number(number) - 1]?.name;
}

function ClipAside({ clip }: { readonly clip: core.Clip }) {
  const { analysis } = useWorkspace();
  const own = (analysis?.findings ?? []).filter(({ subjects }) =>
    subjects.some(({ table, id }) => table === 'clips' && id === clip.id),
  );
  return (
    <aside className="panel-below w-96 p-4" aria-label="The item">
      <ClipPanel clip={clip} />
      <div className="mt-3 grid gap-2">
        {own.map((finding) => (
          <FindingCard key={finding.key} finding={finding} />
        ))}
      </div>
    </aside>
  );
}

function NoItems({ list, onFollow }: { readonly list: string; readonly onFollow: () => void }) {
  const text =
    list === ''
      ? 'This player has no list yet. Pick the files of its folder: what their headers say is read here, and nothing is sent anywhere.'
      : `“${list}” is empty.`;
  return (
    <Empty text={text}>
      <button type="button" className="act-main" onClick={onFollow}>
        Follow a folder
      </button>
    </Empty>
  );
}

/** Which player and list, and how items get into it. */
function ListTools({
  players,
  player,
  lists,
  list,
  onChoose,
  onFollow,
}: PlayerProps & {
  readonly lists: ReadonlyMap<string, readonly core.Clip[]>;
  readonly list: string;
  readonly onChoose: (patch: Record<string, string>) => void;
  readonly onFollow: () => void;
}) {
  const { save } = useWorkspace();
  const place = lists.get(list)?.length ?? 0;
  const addOne = () => {
    const id = newId();
    const named = { list: list || 'Main', place, name: `Item ${place + 1}` };
    const row = core.contentWith('clips', { id, deviceId: player.id, ...named });
    const change = core.changeOf(`Add an item to “${row.list}”`, [core.insertRow('clips', row)]);
    void save(change).then((done) => done && onChoose({ list: row.list, clip: id }));
  };
  return (
    <div className="flex flex-wrap items-end gap-2 px-4.5 py-2.5">
      <div className="w-52">
        <ChoiceField
          label="Player"
          value={player.id}
          options={players.map(({ id, name }) => [id, name])}
          onKeep={(id) => onChoose({ player: id, list: '' })}
        />
      </div>
      <div className="w-44">
        <ChoiceField
          label="List"
          value={list}
          options={[...lists].map(([name, items]) => [name, `${name} (${items.length})`])}
          onKeep={(name) => onChoose({ list: name })}
        />
      </div>
      <NewList onMake={(name) => onChoose({ list: name })} />
      <div className="ml-auto flex gap-2">
        <button type="button" className="act" onClick={addOne}>
          Add an item
        </button>
        <button type="button" className="act-main" onClick={onFollow}>
          Follow a folder
        </button>
      </div>
    </div>
  );
}

/** A list begins with its first item: until then it is only a name here. */
function NewList({ onMake }: { readonly onMake: (name: string) => void }) {
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <button type="button" className="act-quiet" onClick={() => setOpen(true)}>
        New list
      </button>
    );
  return (
    <div className="w-40">
      <TextField
        label="Name of the new list"
        value=""
        onKeep={(name) => {
          setOpen(false);
          if (name.trim() !== '') onMake(name.trim());
        }}
      />
    </div>
  );
}
