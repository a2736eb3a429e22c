// Who a letter goes to, as people type it.

export interface Mailbox {
  /** Empty where only the address is known. */
  name: string;
  address: string;
}

const NAMED = /^\s*"?([^"<>]*?)"?\s*<\s*([^<>\s]+)\s*>\s*$/;
const SEPARATOR = /[,;\n]+/;

/** `Name <somebody@somewhere>` or just the address, several with commas, semicolons or line ends between. Addresses are not checked. */
export function parseMailboxes(text: string): Mailbox[] {
  return text
    .split(SEPARATOR)
    .filter((part) => part.trim() !== '')
    .map((part) => {
      const [, name = '', address = part.trim()] = NAMED.exec(part) ?? [];
      return { name, address };
    });
}

/** The same as it is written in a line. */
export function mailboxText({ name, address }: Mailbox): string {
  return name === '' ? address : `${name} <${address}>`;
}
