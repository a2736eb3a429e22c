// Applying a template to the chosen photos, with before and after; from here templates are made and changed.

import { useState } from 'react';
import type { Template } from '@stellin/contract/describing';
import type { Photo, Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { showError, useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { DescribeDialog } from './DescribeDialog';
import { usePrepared } from './queries';
import { TemplateDialog, type TemplateDraft } from './TemplateDialog';
import { templateOf } from './templateOf';
import { Select } from '../parts/Select';

interface Props {
  selection: Selection;
  photo: Photo | undefined;
  onClose: () => void;
}

export function TemplatesDialog({ selection, photo, onClose }: Props) {
  const { data } = usePrepared();
  const templates = data?.templates ?? [];
  const [chosenId, setChosenId] = useState<number | null>(null);
  const [editing, setEditing] = useState<TemplateDraft | null>(null);
  const change = useChange();
  const chosen = templates.find(({ id }) => id === chosenId) ?? templates[0];
  if (editing)
    return (
      <TemplateDialog
        draft={editing}
        onClose={(id) => {
          setEditing(null);
          if (id !== undefined) setChosenId(id);
        }}
      />
    );
  return (
    <DescribeDialog
      title="Apply a template"
      verb="Apply to"
      selection={selection}
      description={chosen && { kind: 'fillTemplate', edits: chosen.edits }}
      {...(chosen ? { change: (meant) => ({ kind: 'applyTemplate', selection: meant, templateId: chosen.id }) } : {})}
      doesMore={(chosen?.termIds.length ?? 0) > 0}
      onClose={onClose}
    >
      <div className="flex flex-wrap items-end gap-2">
        {chosen && (
          <label className="text-[12px] text-ink-2">
            Template
            <Select
              autoFocus
              className="mt-1 min-w-60 text-base"
              value={chosen.id}
              onChange={(value) => setChosenId(Number(value))}
              options={templates.map((template) => ({
                value: template.id,
                label: `${template.name}${template.shared ? '' : ' (only mine)'}`,
              }))}
            />
          </label>
        )}
        {/* Nothing moves under the pointer once they are there. */}
        <Button disabled={!data} onClick={() => setEditing(NEW)}>
          New …
        </Button>
        {photo && (
          <Button disabled={!data} onClick={() => void templateOf(photo.id).then(setEditing, showError)}>
            New from {photo.name} …
          </Button>
        )}
        {chosen?.mayChange && (
          <>
            <Button onClick={() => setEditing({ ...chosen })}>Change …</Button>
            <Button
              look="quiet"
              disabled={change.isPending}
              onClick={() => change.mutate({ kind: 'removeTemplate', templateId: chosen.id })}
            >
              Remove
            </Button>
          </>
        )}
      </div>
      {chosen ? (
        <Says template={chosen} />
      ) : (
        data && (
          <p className="text-ink-2">There is no template yet. Make one, from nothing or from the photo in focus.</p>
        )
      )}
    </DescribeDialog>
  );
}

const NEW: TemplateDraft = { id: null, name: '', note: '', edits: [], terms: [], shared: true };

function Says({ template }: { template: Template }) {
  const { terms } = template;
  return (
    <p className="text-ink-2">
      {template.note && <>{template.note} · </>}
      {countText(template.edits.length, 'field')}
      {terms.length > 0 && <> · gives {terms.map(({ label }) => `“${label}”`).join(', ')}</>}
    </p>
  );
}
