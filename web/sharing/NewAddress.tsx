// The address of a view link, told once.

import { useState } from 'react';
import { toast } from 'sonner';
import { Button } from '../parts/Button';
import { LetterDialog } from '../mailing/LetterDialog';
import { TextField } from '../parts/Field';

interface Props {
  link: { id: number; address: string };
  title: string;
  onClose: () => void;
}

export function NewAddress({ link: { id, address: told }, title, onClose }: Props) {
  const address = new URL(told, location.origin).href;
  const [isCopied, setCopied] = useState(false);
  const [isWriting, setWriting] = useState(false);
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address);
      setCopied(true);
    } catch {
      toast('The browser lets nothing be copied here: choose the address and copy it.');
    }
  };
  return (
    <div className="space-y-3">
      <TextField
        label="Address"
        readOnly
        value={address}
        boxClass="h-9 font-mono text-[13px]"
        onFocus={(event) => event.currentTarget.select()}
        help="It is told only now: nobody keeps it. Whoever has it sees the pictures; a new address can be made at any time."
      />
      <div className="flex gap-2">
        <Button look="primary" autoFocus onClick={() => void copy()}>
          {isCopied ? 'Copied' : 'Copy the address'}
        </Button>
        <a className="self-center text-slate underline" href={address} target="_blank" rel="noreferrer">
          See what others see
        </a>
        <Button className="ml-auto" onClick={() => setWriting(true)}>
          Send by mail …
        </Button>
        <Button onClick={onClose}>Done</Button>
      </div>
      {isWriting && (
        <LetterDialog about={{ kind: 'link', linkId: id, address }} title={title} onClose={() => setWriting(false)} />
      )}
    </div>
  );
}
