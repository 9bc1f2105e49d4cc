import {
  changeOf,
  insertRow,
  removeRow,
  rowsOf,
  updateRow,
  type Change,
  type Content,
  type DeviceType,
  type Edit,
  type Library,
  type Show,
  type TypeFile,
} from '../show/index.ts';

/** Libraries in the order in which they are asked. */
export const librariesInOrder = (show: Show): Library[] =>
  rowsOf(show, 'libraries').sort((a, b) => a.position - b.position || (a.id < b.id ? -1 : 1));

export const ownLibraryId = 'own';
const ownLibrary: Content<'libraries'> = { id: ownLibraryId, name: 'Our own types', position: 10 };

/**
 * Saves a type. One of another library is left as it is: its edited copy goes into the show's own library, which is
 * asked first, and so counts from then on.
 */
export function planSaveType(show: Show, content: Content<'types'>, newId: () => string): Change | undefined {
  const label = `Change the type ${content.name}`;
  const there = show.types[content.id];
  if (there?.libraryId === ownLibraryId)
    return changeOf(label, [updateRow('types', there, { ...content, libraryId: ownLibraryId })]);
  const library: Edit[] = show.libraries[ownLibraryId] ? [] : [insertRow('libraries', ownLibrary)];
  const copy = { ...content, id: newId(), libraryId: ownLibraryId };
  return changeOf(there ? label : `Add the type ${content.name}`, [...library, insertRow('types', copy)]);
}

/**
 * Takes a type out. Units of it get another definition of the same model; undefined while units need it and there is
 * none.
 */
export function planRemoveType(show: Show, type: DeviceType): Change | undefined {
  const units = rowsOf(show, 'devices').filter(({ typeId }) => typeId === type.id);
  const other = rowsOf(show, 'types').find(({ id, model }) => model === type.model && id !== type.id);
  if (units.length > 0 && !other) return undefined;
  const retyped = units.map((device) => updateRow('devices', device, { typeId: other?.id ?? type.id }));
  return changeOf(`Remove the type ${type.name}`, [...retyped, removeRow('types', type)]);
}

/** A file becomes a library of its own, asked after all that are there. */
export function planTakeInTypes(show: Show, file: TypeFile, newId: () => string): Change {
  const last = librariesInOrder(show).at(-1)?.position ?? 0;
  const library = { id: newId(), name: file.name, position: Math.min(100_000, last + 10) };
  const types = file.types.map((type) => insertRow('types', { ...type, id: newId(), libraryId: library.id }));
  return {
    label: `Take in ${types.length} ${types.length === 1 ? 'type' : 'types'} from ${file.name}`,
    edits: [insertRow('libraries', library), ...types],
  };
}

/** Moves a library up or down by one place: all positions are written anew, tens apart. */
export function planMoveLibrary(show: Show, libraryId: string, step: 1 | -1): Change | undefined {
  const order = librariesInOrder(show);
  const at = order.findIndex(({ id }) => id === libraryId);
  const [moved, other] = [order[at], order[at + step]];
  if (!moved || !other) return undefined;
  const next = order.map((library) => (library === moved ? other : library === other ? moved : library));
  return changeOf(
    `Ask ${moved.name} ${step < 0 ? 'before' : 'after'} ${other.name}`,
    next.map((library, place) => updateRow('libraries', library, { position: (place + 1) * 10 })),
  );
}

/** Takes a library out with its types; undefined while units need one that no other library has. */
export function planRemoveLibrary(show: Show, library: Library): Change | undefined {
  const own = rowsOf(show, 'types').filter(({ libraryId }) => libraryId === library.id);
  const others = new Map(
    rowsOf(show, 'types').flatMap((type) => (type.libraryId === library.id ? [] : [[type.model, type.id] as const])),
  );
  const models = new Map(own.map(({ id, model }) => [id, model]));
  const units = rowsOf(show, 'devices').filter(({ typeId }) => models.has(typeId));
  if (units.some(({ typeId }) => !others.has(models.get(typeId) ?? ''))) return undefined;
  return changeOf(`Remove the library ${library.name}`, [
    ...units.map((device) =>
      updateRow('devices', device, { typeId: others.get(models.get(device.typeId) ?? '') ?? device.typeId }),
    ),
    ...own.map((type) => removeRow('types', type)),
    removeRow('libraries', library),
  ]);
}

/** How many licences of a bundle the show owns; nought takes the row away. */
export function planOwn(
  show: Show,
  licence: { model: string; bundle: string; label: string },
  owned: number,
  newId: () => string,
) {
  const there = rowsOf(show, 'licences').find(
    ({ model, bundle }) => model === licence.model && bundle === licence.bundle,
  );
  const label = `Own ${owned} of ${licence.label}`;
  if (there)
    return changeOf(label, [owned > 0 ? updateRow('licences', there, { owned }) : removeRow('licences', there)]);
  const { model, bundle } = licence;
  return owned > 0
    ? changeOf(label, [insertRow('licences', { id: newId(), model, bundle, owned, note: '' })])
    : undefined;
}
