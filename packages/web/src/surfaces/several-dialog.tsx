import { surfaces, type show as core } from '@deep-patch/core';
import { useState } from 'react';
import { newId } from '../live/identity.ts';
import { useSaving, useShow, useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { offerId } from './offers-list.tsx';

/** The same function on several controls, with one value that counts up: keys 1 to 8, positions 1 to 8. */
export function SeveralDialog({ device, layer, onClose }: Props & { readonly onClose: () => void }) {
  const { save } = useWorkspace();
  const saving = useSaving();
  const several = useSeveral({ device, layer });
  const { offers, meant, plan, counts, from } = several;
  const count = meant.length - (plan?.left ?? 0);
  return (
    <Dialog title="Assign several" onClose={onClose}>
      {offers.length === 0 ? (
        <p>Nothing that {device.name} may drive counts anything.</p>
      ) : (
        <form
          className="grid gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void save(plan?.change).then((isDone) => isDone && onClose());
          }}
        >
          <Fields several={several} layer={layer} />
          <p className="text-mute" role="status">
            {count > 0 && `${meant[0]?.label} to ${meant[count - 1]?.label}: ${counts} ${from} to ${from + count - 1}.`}
            {plan && plan.left > 0 && ` ${plan.left} stay free: ${counts} ends before.`}
          </p>
          <button type="submit" className="act-main justify-self-start" disabled={saving || !plan?.change}>
            {saving ? 'Saving…' : `Assign ${count}`}
          </button>
        </form>
      )}
    </Dialog>
  );
}

interface Props {
  readonly device: core.Device;
  readonly layer: number;
}

/** What is chosen, and the change that follows from it. */
function useSeveral({ device, layer }: Props) {
  const show = useShow();
  const controls = surfaces.controlsOf(show, device);
  const [first, setFirst] = useState(controls[0]?.key ?? '');
  const [count, setCount] = useState(8);
  const offers = surfaces
    .offersFor(show, device)
    .filter(({ command }) => command.args.some(({ type }) => type === 'i'));
  const [chosen, setChosen] = useState(offers[0] ? offerId(offers[0]) : '');
  const [from, setFrom] = useState(1);
  const [onLayer, setOnLayer] = useState(false);
  const [byLayer, setByLayer] = useState(false);
  const offer = offers.find((own) => offerId(own) === chosen);
  const counts = offer?.command.args.find(({ type }) => type === 'i')?.name ?? '';
  const at = controls.findIndex(({ key }) => key === first);
  const kind = controls[at]?.kind;
  const meant = controls
    .slice(at)
    .filter((control) => control.kind === kind)
    .slice(0, count);
  const alike = offer ? alikeTo(offers, offer).slice(0, surfaces.layersOf(show, device)) : [];
  const each = byLayer ? alike : [];
  const intent = offer && { controls: meant, layer: onLayer ? layer : null, offer, counts, from, by: 1, each };
  const plan = intent && surfaces.planAssignSeveral(show, device, intent, newId);
  const layers = surfaces.layersOf(show, device);
  const set = { setFirst, setCount, setChosen, setFrom, setOnLayer, setByLayer };
  return { controls, first, count, offers, chosen, from, onLayer, byLayer, alike, counts, meant, plan, layers, ...set };
}

/** Units of one model with the same function, in the order of their names. */
const alikeTo = (offers: readonly surfaces.Offer[], { target, service, command }: surfaces.Offer): core.Device[] =>
  offers
    .filter(
      (own) =>
        own.target.typeId === target.typeId && own.service.key === service.key && own.command.key === command.key,
    )
    .map((own) => own.target);

function Fields({ several, layer }: { readonly several: ReturnType<typeof useSeveral>; readonly layer: number }) {
  const { controls, first, count, offers, chosen, from, counts } = several;
  return (
    <>
      <label className="grid gap-1">
        From
        <select className="field-select" value={first} onChange={(event) => several.setFirst(event.target.value)}>
          {controls.map(({ key, label }) => (
            <option key={key} value={key}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label className="grid gap-1">
          so many
          <input
            type="number"
            className="field"
            min={1}
            max={128}
            value={count}
            onChange={(event) => several.setCount(Math.max(1, Number(event.target.value)))}
          />
        </label>
        <label className="grid gap-1">
          {counts || 'value'} from
          <input
            type="number"
            className="field"
            value={from}
            onChange={(event) => several.setFrom(Number(event.target.value))}
          />
        </label>
      </div>
      <label className="grid gap-1">
        do
        <select className="field-select" value={chosen} onChange={(event) => several.setChosen(event.target.value)}>
          {offers.map((own) => (
            <option key={offerId(own)} value={offerId(own)}>
              {own.target.name}: {own.command.label}
            </option>
          ))}
        </select>
      </label>
      <OnLayers several={several} layer={layer} />
    </>
  );
}

/** On all layers, on one only, or on each for another unit. */
function OnLayers({ several, layer }: { readonly several: ReturnType<typeof useSeveral>; readonly layer: number }) {
  const { layers, onLayer } = several;
  return (
    <>
      {several.alike.length > 1 && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={several.byLayer}
            onChange={(event) => several.setByLayer(event.target.checked)}
          />
          on each layer for another one: {several.alike.map(({ name }) => name).join(', ')}
        </label>
      )}
      {layers > 1 && !several.byLayer && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={onLayer}
            onChange={(event) => several.setOnLayer(event.target.checked)}
          />
          only on layer {layer + 1}
        </label>
      )}
    </>
  );
}
