import { onair, show as core } from '@deep-patch/core';
import { newId } from '../live/identity.ts';
import { useShow, useWorkspace } from '../live/workspace.tsx';
import { ChoiceField, TextField } from '../parts/kept-fields.tsx';

const goings = [
  ['with_cut', 'Start it with the cut, before it is on air'],
  ['when_on_air', 'Start it once it is on air'],
  ['nothing', 'Start nothing'],
] as const;
const leavings = [
  ['next', 'Make the next item ready'],
  ['hold', 'Hold its last picture'],
  ['stop', 'Stop it, and be dark'],
  ['nothing', 'Leave it as it is'],
] as const;
const offered = [
  ['fixed', 'Always the same list'],
  ['selected', 'The list that is selected at the player'],
] as const;
const rates = core.rateKeys.filter((key) => !key.endsWith('df')).map((key) => [key, key] as const);

/** Label and kind of an input, and what the switcher does about it. */
export function RuleFields({ input }: { readonly input: onair.AirInput }) {
  const show = useShow();
  const { save } = useWorkspace();
  const { switcher, number, rule, player, line, isRuled } = input;
  const edit = (patch: Parameters<typeof onair.planRule>[2]) =>
    void save(onair.planRule(show, { switcherId: switcher.id, input: number, id: newId() }, patch));
  const declare = (patch: Parameters<typeof onair.planDeclare>[2]) =>
    void save(onair.planDeclare(switcher, number, patch));
  const callers = onair.callersOf(show);
  const forget = onair.planForgetRule(show, switcher.id, number);
  return (
    <section className="grid content-start gap-2.5" aria-label="Rules of the input">
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="Label in the switcher"
          value={line.declared?.label ?? ''}
          onKeep={(label) => declare({ label })}
        />
        <ChoiceField
          label="Declared as"
          value={line.declared?.kind ?? 'picture'}
          options={Object.entries(onair.kindWords)}
          onKeep={(kind) => declare({ kind: kind as keyof typeof onair.kindWords })}
        />
      </div>
      {player && <PlayerFields {...{ input, player }} onEdit={edit} />}
      {(rule.channel !== '' || (callers.length > 0 && !player)) && (
        <ChoiceField
          label="Caller channel"
          value={rule.channel}
          options={[
            ['', 'none'],
            ...callers.flatMap(({ device, channels }) =>
              channels.map((channel) => [channel, `${channel} of ${device.name}`] as const),
            ),
          ]}
          onKeep={(channel) => edit({ channel })}
        />
      )}
      <RateField switcher={switcher} />
      {isRuled && forget && (
        <button type="button" className="act-quiet justify-self-start" onClick={() => void save(forget)}>
          Back to what the switcher does by itself
        </button>
      )}
    </section>
  );
}

/** What somebody at the player itself may do, and what then does not follow (needs 9.4 and 9.10). */
function ByHand({ offers, name }: { readonly offers: 'selected' | 'fixed'; readonly name: string }) {
  return (
    <p className="text-[13px] text-mute">
      {name} can always be played by hand. The switcher does not hear of it: its next take starts the item that it
      thinks is ready.
      {offers === 'selected' && ' A click on another list there changes what this input plays.'}
    </p>
  );
}

type RulePatch = Parameters<typeof onair.planRule>[2];

/** What is done about the player that is tied to an input. */
function PlayerFields({
  input: { rule },
  player,
  onEdit,
}: {
  readonly input: onair.AirInput;
  readonly player: core.Device;
  readonly onEdit: (patch: RulePatch) => void;
}) {
  const lists = [...onair.listsOf(useShow(), player.id).keys()];
  return (
    <>
      <ChoiceField
        label="Going on air"
        value={rule.goes}
        options={goings}
        onKeep={(goes) => onEdit({ goes: goes as typeof rule.goes })}
      />
      <ChoiceField
        label="Leaving"
        value={rule.leaves}
        options={leavings}
        onKeep={(leaves) => onEdit({ leaves: leaves as typeof rule.leaves })}
      />
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Offers"
          value={rule.offers}
          options={offered}
          onKeep={(offers) => onEdit({ offers: offers as typeof rule.offers, list: rule.list || (lists[0] ?? '') })}
        />
        {rule.offers === 'fixed' && (
          <ChoiceField
            label="List"
            value={rule.list}
            options={lists.map((list) => [list, list])}
            onKeep={(list) => onEdit({ list })}
          />
        )}
      </div>
      <ByHand offers={rule.offers} name={player.name} />
    </>
  );
}

function RateField({ switcher }: { readonly switcher: core.Device }) {
  const { save } = useWorkspace();
  return (
    <ChoiceField
      label={`Pictures a second of ${switcher.name}`}
      value={switcher.rate ?? ''}
      options={rates}
      onKeep={(rate) =>
        void save(
          core.changeOf(`${switcher.name} at ${rate}`, [
            core.updateRow('devices', switcher, { rate: rate as core.RateKey }),
          ]),
        )
      }
    />
  );
}
