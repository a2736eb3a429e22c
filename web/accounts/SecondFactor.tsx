// The second factor of one's own account: codes of an app, and the recovery codes that it comes with.

import { QRCodeSVG } from 'qrcode.react';
import { useState } from 'react';
import { accountRoutes } from '@stellin/contract/accounts';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Queried } from '../parts/Queried';
import { useFormOf } from '../parts/useFormOf';
import { useConfirmFactor, useFactorProposal, useRemoveFactor, useSecondFactor } from './queries';

export function SecondFactor() {
  const factor = useSecondFactor();
  const [open, setOpen] = useState<'on' | 'off' | null>(null);
  return (
    <section aria-labelledby="factor">
      <h2 id="factor" className="font-title text-[16px] font-semibold">
        Second factor
      </h2>
      <Queried query={factor}>
        {({ on, recoveryCodes }) => (
          <div className="mt-2 flex items-center gap-3">
            <p className="flex-1 text-ink-2">
              {on
                ? `You sign in with your password and a code of your app. ${countText(recoveryCodes, 'recovery code')} left.`
                : 'Your password alone is enough to sign in. With an app that shows codes, a stolen password is of no use.'}
            </p>
            {on ? (
              <Button onClick={() => setOpen('off')}>Take it off …</Button>
            ) : (
              <Button onClick={() => setOpen('on')}>Set it up …</Button>
            )}
          </div>
        )}
      </Queried>
      {open === 'on' && <SetUpDialog onClose={() => setOpen(null)} />}
      {open === 'off' && <RemoveDialog onClose={() => setOpen(null)} />}
    </section>
  );
}

const codeSchema = accountRoutes.confirmSecondFactor.body.pick({ code: true });

function SetUpDialog({ onClose }: { onClose: () => void }) {
  const proposal = useFactorProposal();
  const confirm = useConfirmFactor();
  const { register, handleSubmit, formState } = useFormOf(codeSchema, { code: '' });
  if (confirm.data) return <CodesDialog codes={confirm.data.recoveryCodes} onClose={onClose} />;
  return (
    <Dialog open onOpenChange={onClose} title="Set up a second factor">
      <Queried query={proposal}>
        {({ secret, uri }) => (
          <form onSubmit={handleSubmit(({ code }) => confirm.mutate({ secret, code }))} className="space-y-3">
            <p className="text-ink-2">Take this up with an app that shows codes, then type the code it shows.</p>
            <div className="flex justify-center rounded bg-white p-3">
              <QRCodeSVG value={uri} size={168} title="For your app" />
            </div>
            <TextField label="Or type this into the app" readOnly value={secret} boxClass="h-8 font-mono" />
            <TextField
              label="Code of the app"
              inputMode="numeric"
              autoComplete="one-time-code"
              autoFocus
              error={formState.errors.code?.message}
              {...register('code')}
            />
            {confirm.error && (
              <p role="alert" className="rounded bg-red-pale px-3 py-2 text-red">
                {confirm.error.message}
              </p>
            )}
            <FormActions onCancel={onClose} action="Sign in with it from now on" disabled={confirm.isPending} />
          </form>
        )}
      </Queried>
    </Dialog>
  );
}

function CodesDialog({ codes, onClose }: { codes: readonly string[]; onClose: () => void }) {
  return (
    <Dialog open onOpenChange={onClose} title="Your recovery codes">
      <p className="mb-3 text-ink-2">
        When the app is lost, each of these signs you in once in its place. Keep them where the app is not; they are not
        shown again.
      </p>
      <ul className="grid grid-cols-2 gap-1 rounded border border-line p-3 font-mono">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <div className="mt-4 flex justify-end">
        <Button look="primary" onClick={onClose}>
          I have noted them
        </Button>
      </div>
    </Dialog>
  );
}

function RemoveDialog({ onClose }: { onClose: () => void }) {
  const remove = useRemoveFactor();
  const { register, handleSubmit, formState } = useFormOf(accountRoutes.removeSecondFactor.body, { password: '' });
  return (
    <Dialog open onOpenChange={onClose} title="Take the second factor off">
      <form
        onSubmit={handleSubmit(({ password }) => remove.mutate(password, { onSuccess: onClose }))}
        className="space-y-3"
      >
        <TextField
          label="Your password"
          type="password"
          autoComplete="current-password"
          autoFocus
          error={formState.errors.password?.message}
          {...register('password')}
        />
        <FormActions onCancel={onClose} action="Take it off" disabled={remove.isPending} />
      </form>
    </Dialog>
  );
}
