// What a person may be allowed to do. A role is a name for some of these; a right is a role in a part of the catalogue.

interface PermissionFacts {
  label: string;
  /** One sentence for whoever makes up a role. */
  help: string;
}

/** In the order in which roles list them. Everybody who may anything may see. */
export const PERMISSIONS = {
  see: { label: 'See', help: 'Find photos, look at them, and read what is said of them.' },
  private: { label: 'Private', help: 'See private photos and persons, and say what is private.' },
  describe: { label: 'Describe', help: 'Terms, fields, ratings, marks, dossiers and saved searches.' },
  people: { label: 'Name people', help: 'Look for faces, name them, and identify people by their likeness.' },
  vocabulary: {
    label: 'Vocabulary',
    help: 'Terms and vocabularies, field sets, rules; merge, divide and remove persons.',
  },
  files: { label: 'Files', help: 'Move, copy, rename and trash files, make folders, empty cards and the trash.' },
  writeBack: { label: 'Write back', help: 'Write descriptions into files, and settle conflicts with them.' },
  intake: { label: 'Take in', help: 'Take in drives, folders and cards, and link photos with their files.' },
  deliver: { label: 'Deliver', help: 'Make copies for others and save pictures outside the archive.' },
  share: { label: 'Share', help: 'Show photos to people who have no account.' },
  administer: {
    label: 'Administer',
    help: 'Accounts and rights, drives, tracked folders, policies, backups, and everybody’s jobs.',
  },
} as const satisfies Record<string, PermissionFacts>;

export type Permission = keyof typeof PERMISSIONS;
export const PERMISSION_IDS = Object.keys(PERMISSIONS) as [Permission, ...Permission[]];

/** Roles that every archive has. They can’t be altered; a team may define others. */
export const PRESET_ROLES = {
  keeper: { label: 'Keeper', permissions: PERMISSION_IDS },
  cataloguer: {
    label: 'Cataloguer',
    permissions: ['see', 'private', 'describe', 'people', 'writeBack', 'intake', 'deliver'],
  },
  viewer: { label: 'Viewer', permissions: ['see'] },
} as const satisfies Record<string, { label: string; permissions: readonly Permission[] }>;

export type PresetRole = keyof typeof PRESET_ROLES;
export const PRESET_ROLE_IDS = Object.keys(PRESET_ROLES) as [PresetRole, ...PresetRole[]];
