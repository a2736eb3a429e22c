/** @jest-environment ./web/testing/browser.cjs */
// The controls that every form is made of.

import { screen } from '@testing-library/react';
import { useState } from 'react';
import { choose, show } from '../testing/render';
import { Checkbox } from './Checkbox';
import { Field, TextField } from './Field';
import { Meter } from './Meter';
import { Radio, RadioGroup } from './RadioGroup';
import { Select } from './Select';
import { Slider } from './Slider';

function Orders({ options }: { options: { value: number | ''; label: string; group?: string }[] }) {
  const [value, setValue] = useState<number | ''>('');
  return (
    <>
      <Select label="Vocabulary" value={value} options={options} onChange={setValue} />
      <output>{JSON.stringify(value)}</output>
    </>
  );
}
const output = () => screen.getByRole('status').textContent;

test('a list gives the value that was chosen, numbers as numbers and nothing as nothing', async () => {
  const { user } = show(
    <Orders
      options={[
        { value: '', label: 'none' },
        { value: 7, label: 'Kites' },
      ]}
    />,
  );
  await choose(user, screen.getByLabelText('Vocabulary'), 'Kites');
  expect(output()).toBe('7');
  await choose(user, screen.getByLabelText('Vocabulary'), 'none');
  expect(output()).toBe('""');
});

test('options of a group stand under its heading, in the order of the groups', async () => {
  const { user } = show(
    <Orders
      options={[
        { value: 1, label: 'rating', group: 'Criteria' },
        { value: 2, label: 'Headline', group: 'Fields' },
        { value: 3, label: 'kind', group: 'Criteria' },
      ]}
    />,
  );
  await user.click(screen.getByLabelText('Vocabulary'));
  expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual(['rating', 'kind', 'Headline']);
  expect(screen.getByText('Fields')).toBeTruthy();
  await user.keyboard('{ArrowDown}{ArrowDown}{Enter}');
  expect(output()).toBe('2');
});

test('a box is ticked by itself, by its label and by Space; one that says “some” becomes ticked', async () => {
  const said: boolean[] = [];
  const { user } = show(
    <>
      <Checkbox checked={false} onChange={(checked) => said.push(checked)}>
        with sub-folders
      </Checkbox>
      <Checkbox label="Rokkaku" checked="some" onChange={(checked) => said.push(checked)} />
    </>,
  );
  await user.click(screen.getByRole('checkbox', { name: 'with sub-folders' }));
  await user.click(screen.getByText('with sub-folders'));
  screen.getByRole('checkbox', { name: 'with sub-folders' }).focus();
  await user.keyboard(' ');
  const some = screen.getByRole('checkbox', { name: 'Rokkaku' });
  expect(some.getAttribute('aria-checked')).toBe('mixed');
  await user.click(some);
  expect(said).toEqual([true, true, true, true]);
});

test('of radios one is chosen; those that can’t be are passed over', async () => {
  const said: string[] = [];
  const { user } = show(
    <RadioGroup label="Format" value="csv" onChange={(value) => said.push(value)}>
      <Radio value="skos">SKOS</Radio>
      <Radio value="csv">CSV</Radio>
      <Radio value="none" disabled>
        none
      </Radio>
    </RadioGroup>,
  );
  expect(screen.getByRole('radio', { name: 'CSV' }).getAttribute('aria-checked')).toBe('true');
  await user.click(screen.getByText('SKOS'));
  await user.click(screen.getByText('none'));
  expect(said).toEqual(['skos']);
});

test('a slider moves by its step, to its ends and not beyond', async () => {
  const said: number[] = [];
  const { user } = show(
    <Slider label="Strictness" value={95} lowest={0} highest={100} step={5} onChange={(value) => said.push(value)} />,
  );
  screen.getByRole('slider', { name: 'Strictness' }).focus();
  await user.keyboard('{ArrowRight}{Home}{ArrowLeft}');
  expect(said).toEqual([100, 0, 90]);
});

test('a field ties its label, its help or what is wrong, and its box to one another', () => {
  show(
    <>
      <TextField label="Name" help="As people call it" required />
      <Field label="Folder" error="A name has no “/”.">
        {(tied) => <input {...tied} />}
      </Field>
    </>,
  );
  const name = screen.getByLabelText(/^Name/);
  expect(document.getElementById(name.getAttribute('aria-describedby') ?? '')?.textContent).toBe('As people call it');
  const folder = screen.getByLabelText('Folder');
  expect(folder.getAttribute('aria-invalid')).toBe('true');
  expect(document.getElementById(folder.getAttribute('aria-describedby') ?? '')?.textContent).toContain('no “/”');
});

test('a meter says how far something has come; one that repeats what stands beside it is silent', () => {
  show(
    <>
      <Meter label="Write back" share={0.426} />
      <Meter share={0.9} />
    </>,
  );
  const [meter, ...others] = screen.getAllByRole('progressbar');
  expect(others).toEqual([]);
  expect([meter?.getAttribute('aria-label'), meter?.getAttribute('aria-valuenow')]).toEqual(['Write back', '42']);
});
