import { wall as walls } from '@deep-patch/core';
import { useWorkspace } from '../live/workspace.tsx';
import { Dialog } from '../parts/dialog.tsx';
import { WallThumb } from './wall-canvas.tsx';

const words: Readonly<Record<walls.Cause['of'], string>> = {
  scan: 'the scan is really',
  colours: 'the colour order is really',
  dataFrom: 'data really comes from the',
  order: 'receivers are numbered',
};

/** From the picture to the cause: what this wall would look like if one setting were wrong, and what mends it. */
export function CausesDialog({ own, onClose }: { readonly own: walls.KnownWall; readonly onClose: () => void }) {
  const { save } = useWorkspace();
  const { wall, panel } = own;
  const causes = walls.causesOf(wall, panel);
  const mend = ({ patch }: walls.Cause) =>
    void save(walls.planWall(wall, 'as it looks', { ...patch, stored: false })).then((done) => done && onClose());
  return (
    <Dialog title={`What does ${wall.name} look like?`} onClose={onClose} wide unsaved={false}>
      <p className="mb-3 text-mute">
        Send the orientation picture, and choose what is seen. Each of these is this very wall with one setting that is
        otherwise than it is entered.
      </p>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-4">
        {causes.map((cause) => (
          <li key={cause.key}>
            <button
              type="button"
              className="grid w-full gap-1 rounded-box border border-line p-1.5 text-left text-[13px] hover:border-primary"
              onClick={() => mend(cause)}
            >
              <WallThumb
                {...{ wall, panel }}
                kind="orientation"
                as={{ cause: cause.key }}
                name={`${words[cause.of]} ${cause.really}`}
              />
              <span>
                {words[cause.of]} <b>{cause.really}</b>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
