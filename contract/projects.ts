// Projects: a case, a commission, an exhibition, with fields, template, rule, dossiers and searches of its own.

import { z } from 'zod';
import { DATE_VALUE } from '@stellin/core/describing/ownFields';
import { dossierShape } from './dossiers';
import { chosenId, id, route, text } from './route';

const date = text
  .trim()
  .max(10)
  .refine(
    (given) => given === '' || DATE_VALUE.test(given),
    'Write a year, a month or a day: 2024, 2024-06, 2024-06-14.',
  );

/** What a person says of a project. */
export const projectShape = dossierShape.extend({
  starts: date,
  ends: date,
  fieldSetId: z
    .union([chosenId, z.literal('new')])
    .nullable()
    .describe('The fields it asks for; `new`: a set of its own'),
  templateId: chosenId.nullable().describe('Fills what photos that come into it do not say yet'),
  ruleId: chosenId.nullable().describe('What its photos must have'),
});
export type ProjectForm = z.infer<typeof projectShape>;

/** The changes to projects: entries of the union of changes. */
export const projectChanges = [
  projectShape.extend({
    kind: z.literal('makeProject'),
    like: id
      .nullable()
      .default(null)
      .describe('The project whose dossiers (empty), searches and members it takes over'),
  }),
  projectShape.extend({ kind: z.literal('changeProject'), projectId: id }),
  z.object({
    kind: z.literal('closeProject'),
    projectId: id,
    closed: z.boolean().describe('Closed: nothing of it changes any more; false opens it again'),
  }),
  z.object({ kind: z.literal('removeProject'), projectId: id }),
] as const;

export const project = z.object({
  id: z.number(),
  dossierId: z.number(),
  name: z.string(),
  note: z.string(),
  colour: z.string(),
  query: z.string().describe('What finds its photos, in the query language'),
  photos: z.number(),
  starts: z.string(),
  ends: z.string(),
  fieldSetId: z.number().nullable(),
  templateId: z.number().nullable(),
  ruleId: z.number().nullable(),
  closed: z.boolean(),
  lacking: z
    .array(z.object({ part: z.string(), query: z.string(), photos: z.number() }))
    .describe('What its rule asks for, with the photos that lack it'),
});
export type Project = z.infer<typeof project>;

export const projectRoutes = {
  listProjects: route({
    method: 'GET',
    path: '/api/projects',
    access: 'see',
    shows: 'seen',
    summary: 'All projects, open ones first',
    response: z.object({ projects: z.array(project) }),
  }),
};
