// The museum's volunteers: a role of their own in the project they work on, and one who has not come yet.

import { PROGRAM } from '@stellin/server/catalogue/viewer';
import type { Preparing } from './applying';

const VOLUNTEERS = 'Saturday volunteers';

/** Made once: a demo that goes on being prepared finds the team there. */
export async function formTeam({ services: { accounts, teams, projects } }: Preparing): Promise<void> {
  const known = await teams.overview();
  if (known.teams.some(({ name }) => name === VOLUNTEERS)) return;
  const volunteer =
    (await accounts.find('runa')) ?? (await accounts.invite({ name: 'runa', displayName: 'Runa Falk', role: null }));
  // What a run that was cut off has made is taken up.
  const roleId =
    known.roles.find(({ name }) => name === 'Volunteer')?.id ??
    (await teams.saveRole({ id: null, name: 'Volunteer', permissions: ['describe', 'people'] }));
  await accounts.link(volunteer.id, null);
  const teamId = await teams.saveTeam({
    id: null,
    name: VOLUNTEERS,
    note: 'They write captions for the loan.',
    members: [volunteer.id],
  });
  // They work on what is under way.
  const [project] = await projects.list(PROGRAM);
  if (project)
    await teams.giveRight({ kind: 'team', id: teamId }, roleId, { kind: 'dossier', dossierId: project.dossierId });
}
