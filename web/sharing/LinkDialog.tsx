// Making a view link for what is meant: what it says, how long it holds, and then its address.

import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { HowItLooks, WhatItSays, WhatItShows, WhereItStands, WhoMaySee } from './LinkFields';
import { linkSchema, NEW_LINK, requestOf, type LinkValues, type MeantPhotos } from './linkForm';
import { NewAddress } from './NewAddress';
import { useMakeLink } from './queries';

interface Props {
  meant: MeantPhotos;
  onClose: () => void;
}

export function LinkDialog({ meant, onClose }: Props) {
  const make = useMakeLink();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={make.data ? 'The link is made' : 'View link'} wide>
      {make.data ? (
        <NewAddress link={make.data} title={make.variables.settings?.title ?? ''} onClose={onClose} />
      ) : (
        <Form meant={meant} make={make} onClose={onClose} />
      )}
    </Dialog>
  );
}

function Form({ meant: { selection, sort }, make, onClose }: Props & { make: ReturnType<typeof useMakeLink> }) {
  const form = useFormOf<LinkValues>(linkSchema, { ...NEW_LINK, sort });
  const canFollow = selection.query !== null && selection.plus.length === 0 && selection.minus.length === 0;
  const send = form.handleSubmit((typed) => make.mutate(requestOf(selection, typed)));
  return (
    <form className="space-y-3" onSubmit={(event) => void send(event)}>
      <p className="text-ink-2">
        Whoever has its address sees these pictures in a browser, without an account. Private photos and people never
        appear.
      </p>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
        <WhatItShows form={form} canFollow={canFollow} />
        <WhoMaySee form={form} />
        <HowItLooks form={form} />
        <WhatItSays form={form} />
      </div>
      <WhereItStands form={form} />
      {make.error && (
        <p role="alert" className="text-red">
          {make.error.message}
        </p>
      )}
      <FormActions onCancel={onClose} action="Make the link" disabled={make.isPending} />
    </form>
  );
}
