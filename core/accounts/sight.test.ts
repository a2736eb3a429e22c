import { PERMISSION_IDS, PRESET_ROLES } from './permissions';
import { holdsEverywhere, sightOf, type Right } from './sight';

const vault = { kind: 'drive', driveId: 'v' } as const;
const everywhere = { kind: 'catalogue' } as const;

test('every role that all archives have may see, and a keeper may do everything', () => {
  for (const { permissions } of Object.values(PRESET_ROLES)) expect(permissions).toContain('see');
  expect(PRESET_ROLES.keeper.permissions).toEqual(PERMISSION_IDS);
});

test('somebody without rights sees nothing; who may see all and what is private sees everything', () => {
  expect(sightOf([], 'see')).toEqual([]);
  expect(sightOf([{ permissions: ['see', 'private'], scope: everywhere }], 'see')).toBeNull();
});

test('who sees the whole catalogue needs no further parts of it but for what is private there', () => {
  const rights: Right[] = [
    { permissions: ['see'], scope: everywhere },
    { permissions: ['see'], scope: { kind: 'folder', folderId: 3 } },
    { permissions: ['see', 'private'], scope: vault },
  ];
  expect(sightOf(rights, 'see')).toEqual([
    { scope: everywhere, private: false },
    { scope: vault, private: true },
  ]);
});

test('a permission reaches as far as the rights that hold it, and everywhere only where one is for all', () => {
  const rights: Right[] = [
    { permissions: ['see', 'private'], scope: everywhere },
    { permissions: ['see', 'describe'], scope: vault },
  ];
  expect(sightOf(rights, 'describe')).toEqual([{ scope: vault, private: false }]);
  expect([holdsEverywhere(rights, 'see'), holdsEverywhere(rights, 'describe')]).toEqual([true, false]);
});
