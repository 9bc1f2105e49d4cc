import { show as core, type wall as walls } from '@deep-patch/core';
import { useShow } from '../live/workspace.tsx';
import { ChoiceField, NumberField } from '../parts/kept-fields.tsx';
import { Tick } from '../parts/typed-fields.tsx';
import { Dividing } from './dividing.tsx';
import { Entered } from './entered.tsx';
import { Cables, PlayerOutput, Processors, SenderFields } from './feeding.tsx';
import { Measures, OtherPanel, Sent } from './measures.tsx';
import { useEdit, type PartProps } from './use-edit.ts';

/** Everything about a wall that somebody decides or writes down. */
export function WallForm({ own, load, size }: PartProps & { readonly load: walls.WallLoad | undefined }) {
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(18rem,1fr))] gap-x-8 gap-y-4 border-t border-rule py-3">
      <Dividing {...{ own, load }} />
      <Carrying own={own} />
      <Entered own={own} />
      <Counted own={own} />
      <PlayerOutput own={own} />
      <Sent own={own} size={size} />
      <Cables own={own} />
      <Processors />
      <OtherPanel own={own} size={size} />
      <Measures size={size} own={own} />
    </div>
  );
}

function Carrying({ own }: Pick<PartProps, 'own'>) {
  const show = useShow();
  const edit = useEdit(own);
  const { wall } = own;
  const processors = core.rowsOf(show, 'devices').filter((device) => {
    const type = core.typeOf(show, device);
    return type?.drivesWall || (wall.sender === 'card' && core.isComputer(type)) || device.id === wall.processorId;
  });
  return (
    <section className="grid content-start gap-2" aria-label="How it is driven">
      <h2 className="font-bold">How it is driven</h2>
      <ChoiceField
        label="Driven by"
        value={wall.processorId ?? ''}
        options={[['', 'nobody has said'], ...processors.map(({ id, name }) => [id, name] as const)]}
        onKeep={(id) => edit('processor', { processorId: id || null })}
      />
      <SenderFields own={own} />
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Bits"
          value={String(wall.bits)}
          options={['8', '10', '12'].map((bits) => [bits, bits] as const)}
          onKeep={(bits) => edit('bits', { bits: Number(bits) as 8 | 10 | 12 })}
        />
        <ChoiceField
          label="Pictures a second"
          value={wall.rate}
          options={core.rateKeys.filter((key) => !key.endsWith('df')).map((key) => [key, key] as const)}
          onKeep={(rate) => edit('rate', { rate: rate as core.RateKey })}
        />
      </div>
      <ChoiceField
        label="Parts are numbered"
        value={wall.numberedFrom}
        options={[
          ['front', 'as the audience sees them'],
          ['back', 'as somebody behind the wall sees them'],
        ]}
        onKeep={(from) => edit('numbering', { numberedFrom: from as core.Wall['numberedFrom'] })}
      />
      <Tick checked={wall.loop} onTick={(loop) => edit(loop ? 'a loop' : 'no loop', { loop })}>
        Data comes back: one cut leaves the picture
      </Tick>
      {wall.loop && (
        <Tick checked={wall.loopInFile} onTick={(loopInFile) => edit('loop in the show file', { loopInFile })}>
          It is switched on in the show file
        </Tick>
      )}
      <Tick checked={wall.stored} onTick={(stored) => edit(stored ? 'stored' : 'not stored', { stored })}>
        Stored in the receivers
      </Tick>
    </section>
  );
}

/** What each output counts, before anything is built on it (need 6.10). */
function Counted({ own }: Pick<PartProps, 'own'>) {
  const edit = useEdit(own);
  const { wall } = own;
  if (wall.parts.length === 0) return null;
  const put = (output: number, patch: Partial<core.Wall['found'][number]>) => {
    const there = wall.found.find((one) => one.output === output) ?? { output, panels: 0, version: '', errors: 0 };
    const others = wall.found.filter((one) => one.output !== output);
    edit('what is found', { found: [...others, { ...there, ...patch }].sort((a, b) => a.output - b.output) });
  };
  const notCount = (value: number) => !Number.isInteger(value) || value < 0 || value > 2000;
  return (
    <section className="grid content-start gap-2" aria-label="What the receivers report">
      <h2 className="font-bold">What the receivers report</h2>
      {wall.parts.map(({ output }) => {
        const there = wall.found.find((one) => one.output === output);
        return (
          <div key={output} className="grid grid-cols-2 gap-2">
            <NumberField
              label={`Panels on output ${output}`}
              value={there?.panels ?? null}
              refuse={notCount}
              onKeep={(count) => put(output, { panels: count ?? 0 })}
            />
            <NumberField
              label="With errors"
              value={there?.errors ?? null}
              refuse={notCount}
              onKeep={(errors) => put(output, { errors: errors ?? 0 })}
            />
          </div>
        );
      })}
    </section>
  );
}
