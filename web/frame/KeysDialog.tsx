// The overview of all keys.

import { useMarks } from '../marks/queries';
import { Dialog } from '../parts/Dialog';
import { Kbd } from '../parts/Kbd';
import { KEY_GROUPS, KEYS } from '../foundation/keys';

export function KeysDialog({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { data: marks = [] } = useMarks();
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys" wide>
      <div className="grid grid-cols-4 gap-6">
        {KEY_GROUPS.map((group) => (
          <section key={group}>
            <h3 className="mb-2 font-semibold text-ink-2">{group}</h3>
            <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1.5">
              {KEYS.filter((entry) => entry.group === group).map(({ action, shown, help }) => (
                <div key={action} className="contents">
                  <dt>
                    <Kbd>{shown}</Kbd>
                  </dt>
                  <dd>{help}</dd>
                </div>
              ))}
              {group === 'Describing' &&
                marks.map(({ id, name, letter }) => (
                  <div key={id} className="contents">
                    <dt>
                      <Kbd>{letter.toUpperCase()}</Kbd>
                    </dt>
                    <dd>Mark “{name}”; again takes it off</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
      </div>
      <p className="mt-4 text-ink-2">
        Single keys act while no text field has the focus. In the columns of terms: arrows move, Space gives or takes
        off. Ctrl Space grasps the term, dossier or face in focus: arrows go to where it can be dropped, Enter drops it,
        Esc lets it go.
      </p>
    </Dialog>
  );
}
