/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import type { DeliveryServer } from '@stellin/contract/deliveryServers';
import { answering, choose, show, type Answers } from '../testing/render';
import { ServersDialog } from './ServersDialog';

const KEY = `SHA256:${'a'.repeat(43)}`;
const SERVER: DeliveryServer = {
  id: 3,
  server: { kind: 'sftp', name: 'Northmere', host: 'files.example', port: 22, user: 'ida', root: 'in', hostKey: KEY },
};
const open = (answers: Answers = {}) => {
  const asked = answering({
    listDeliveryServers: { servers: [SERVER] },
    tryDeliveryServer: { problem: null, hostKey: KEY },
    saveDeliveryServer: SERVER,
    removeDeliveryServer: { done: true },
    ...answers,
  });
  return { ...show(<ServersDialog onClose={() => undefined} />), asked };
};
const bodies = (asked: ReturnType<typeof answering>, name: string) =>
  asked.filter((each) => each.name === name).map(({ body }) => body);

test('a new server is tried, and kept with the key that it has shown', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByRole('button', { name: 'New server …' }));
  await user.type(screen.getByLabelText(/^Name/), 'Loans');
  await user.type(screen.getByLabelText(/^Host/), 'loans.example');
  await user.type(screen.getByLabelText(/^User/), 'ida');
  await user.type(screen.getByLabelText(/^Password/), 'secret');
  await user.click(screen.getByRole('button', { name: 'Try it' }));
  await screen.findByText(/A file was written there, read back and removed/);
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  const server = { kind: 'sftp', name: 'Loans', host: 'loans.example', port: 22, user: 'ida', root: '' };
  expect(bodies(asked, 'tryDeliveryServer')).toEqual([
    { serverId: null, server: { ...server, hostKey: null }, secret: 'secret' },
  ]);
  expect(bodies(asked, 'saveDeliveryServer')).toEqual([
    { serverId: null, server: { ...server, hostKey: KEY }, secret: 'secret' },
  ]);
});

test('one that is known keeps its password unless another is typed; it is forgotten on request', async () => {
  const { user, asked } = open({ tryDeliveryServer: { problem: 'the connection was refused', hostKey: null } });
  await user.click(await screen.findByRole('button', { name: /^Northmere/ }));
  await user.click(screen.getByRole('button', { name: 'Try it' }));
  await screen.findByText('It does not work: the connection was refused');
  expect(bodies(asked, 'tryDeliveryServer')).toEqual([{ serverId: 3, server: SERVER.server, secret: null }]);
  await user.click(screen.getByRole('button', { name: 'Forget it' }));
  expect(asked.some(({ name }) => name === 'removeDeliveryServer')).toBe(true);
});

test('what is wrong with an address is said before anything is asked', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByRole('button', { name: 'New server …' }));
  await choose(user, screen.getByLabelText('Kind'), 'S3-compatible storage');
  await user.type(screen.getByLabelText(/^Name/), 'Storage');
  await user.type(screen.getByLabelText(/^Bucket/), 'kites');
  await user.type(screen.getByLabelText(/^Access key/), 'ida');
  await user.type(screen.getByLabelText(/^Secret key/), 'secret');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await screen.findByText(/^endpoint: /);
  expect(bodies(asked, 'saveDeliveryServer')).toEqual([]);
});
