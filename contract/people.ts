// People: persons, faces, what looks alike.

import { z } from 'zod';
import { STRICTNESS } from '@stellin/core/people/grouping';
import { queryTextSchema, selection } from './photos';
import { done, id, idParams, route, text, rowCount } from './route';

const name = text.trim().min(1).max(200).describe('The name of a person');
const part = z.number().min(0).max(1);
export const box = z
  .object({ left: part, top: part, width: part, height: part })
  .describe('Parts of the picture as it is seen');
const faceIds = z.array(id).min(1).max(20_000);

/** Somebody who is there already, or a name: that of a person, or of one to be made. */
export const who = z.union([z.object({ personId: id }), z.object({ name })]);
export type Who = z.infer<typeof who>;

/** A date as people know it: a year, about a year, a day (EDTF). */
export const edtf = text.trim().max(40);

export const personShape = z.object({
  name,
  otherNames: z.array(name).max(50).default([]),
  note: text.max(5000).default(''),
  born: edtf.default(''),
  died: edtf.default(''),
  private: z.boolean().default(false).describe('Never written into files, never shown outside'),
  detailed: z
    .boolean()
    .default(false)
    .describe('Files also say who this is: note and term go into PersonInImageWDetails'),
  termId: id.nullable().default(null).describe('The term that stands for this person'),
});

/** The changes to people: entries of the union of changes. */
export const peopleChanges = [
  z.object({
    kind: z.literal('nameFaces'),
    faceIds,
    who,
    notFaceIds: z.array(id).max(20_000).default([]).describe('Faces that were taken for theirs and are not'),
  }),
  z.object({ kind: z.literal('refuseFaces'), faceIds, personId: id }),
  z.object({
    kind: z.literal('setFaces'),
    faceIds,
    state: z.enum(['open', 'unnamed', 'none', 'removed']).describe('Open again, not to be named, no face, removed'),
  }),
  z.object({ kind: z.literal('drawFace'), photoId: id, box, who: who.nullable() }),
  z.object({ kind: z.literal('moveFace'), faceId: id, box }),
  z.object({ kind: z.literal('namePhotos'), selection, who }),
  z.object({ kind: z.literal('takePersons'), selection, personId: id }),
  personShape.extend({ kind: z.literal('savePerson'), personId: id.nullable() }),
  z.object({ kind: z.literal('mergePersons'), personIds: z.array(id).min(1).max(100), intoId: id }),
  z.object({ kind: z.literal('splitPerson'), personId: id, faceIds, name }),
  z.object({ kind: z.literal('removePerson'), personId: id }),
  z.object({
    kind: z.literal('settleNames'),
    decisions: z
      .array(z.object({ name: text.min(1).max(500), who: who.nullable().describe('Null: nobody of the catalogue') }))
      .min(1)
      .max(1000),
  }),
] as const;

export const FACE_STATES = ['open', 'named', 'unnamed', 'none'] as const;

export const face = z.object({
  id: z.number(),
  photoId: z.number(),
  photoName: z.string(),
  previewVersion: z.number().describe('Of its photo'),
  box,
  state: z.enum(FACE_STATES),
  person: z.object({ id: z.number(), name: z.string() }).nullable(),
  drawn: z.boolean().describe('By somebody, not found'),
  quality: z.number().describe('How well it shows who it is, 0 to 1'),
  smile: z.number(),
  eyesOpen: z.number(),
  takenAt: z.string().nullable(),
});
export type Face = z.infer<typeof face>;

/** A face that is like an example. */
const likeFace = face.extend({ likeness: z.number() });
export type LikeFace = z.infer<typeof likeFace>;

export const person = personShape.extend({
  id: z.number(),
  photos: z.number(),
  faces: z.number().describe('Confirmed'),
  termLabel: z.string().nullable(),
  coverFace: z.number().nullable(),
});
export type Person = z.infer<typeof person>;

const guess = z.object({
  personId: z.number(),
  name: z.string(),
  certainty: z.number().describe('So many in 100 are right, as measured'),
});

const group = z.object({
  faces: z
    .array(face.extend({ likeness: z.number().describe('To the middle of the group, 0 to 1') }))
    .describe('The likeliest first; the first few'),
  faceIds: z.array(z.number()).describe('All'),
  photos: z.number(),
  guess: guess.nullable(),
});
export type LikenessGroup = z.infer<typeof group>;

const strictness = z.enum(STRICTNESS);

export const peopleRoutes = {
  listPersons: route({
    method: 'GET',
    path: '/api/persons',
    access: 'see',
    shows: 'seen',
    summary: 'All persons by name, with how often they are seen',
    response: z.object({ persons: z.array(person) }),
  }),
  showPerson: route({
    method: 'GET',
    path: '/api/persons/:id',
    access: 'see',
    shows: 'seen',
    summary: 'A person with confirmed, suggested and refused faces, years, and who appears along',
    params: idParams,
    response: z.object({
      person,
      confirmed: z.array(face),
      suggested: z.array(face.extend({ certainty: z.number() })),
      refused: z.array(face),
      years: z.array(z.object({ year: z.number(), photos: z.number() })),
      along: z.array(z.object({ personId: z.number(), name: z.string(), photos: z.number() })),
    }),
  }),
  listLikenessGroups: route({
    method: 'GET',
    path: '/api/people/groups',
    access: 'people',
    summary: 'Faces nobody has named, by likeness: the largest groups first',
    query: z.object({
      strictness: strictness.default('close'),
      offset: rowCount.default(0),
      limit: z.coerce.number().int().min(1).max(100).default(20),
    }),
    response: z.object({
      groups: z.array(group),
      total: z.number().describe('Groups'),
      faces: z.number().describe('Not named, in all groups'),
    }),
  }),
  facesOfPhoto: route({
    method: 'GET',
    path: '/api/photos/:id/people',
    access: 'see',
    shows: 'seen',
    summary: 'The faces of a photo, and who is in it without one; it is looked at now if it was not before',
    params: idParams,
    response: z.object({
      faces: z.array(face.extend({ guess: guess.nullable() })),
      persons: z.array(z.object({ id: z.number(), name: z.string() })).describe('In it without a face'),
      problem: z.string().nullable().describe('Why it could not be looked at for faces'),
    }),
  }),
  peopleOfSelection: route({
    method: 'POST',
    path: '/api/selection/people',
    access: 'see',
    shows: 'seen',
    summary: 'Who is in the photos of a selection, and their faces',
    body: z.object({ selection }),
    response: z.object({
      persons: z.array(z.object({ id: z.number(), name: z.string(), photos: z.number() })),
      faces: z.array(face).describe('The first 200'),
    }),
  }),
  findLike: route({
    method: 'POST',
    path: '/api/people/like',
    access: 'people',
    summary: 'Faces like one, the likeliest first',
    body: z.object({
      faceId: id.optional(),
      picture: text.max(1_900_000).optional().describe('A picture with a face, as base64, instead'),
      strictness: z.number().min(0).max(1).default(0.5).describe('0 wide, 1 exact'),
      smiling: z.boolean().default(false),
      eyesOpen: z.boolean().default(false),
      sharp: z.boolean().default(false),
      frontal: z.boolean().default(false),
      named: z.enum(['all', 'named', 'open']).default('all'),
      query: queryTextSchema.default('').describe('Only faces in photos that it finds'),
      limit: z.number().int().min(1).max(500).default(100),
    }),
    response: z.object({ faces: z.array(likeFace) }),
  }),
  listNames: route({
    method: 'GET',
    path: '/api/people/names',
    access: 'people',
    summary: 'Names that files bring and that are nobody of the catalogue yet',
    response: z.object({
      names: z.array(
        z.object({
          name: z.string(),
          photos: z.number(),
          samples: z.array(z.object({ photoId: z.number(), version: z.number() })),
          proposed: z
            .object({ id: z.number(), name: z.string() })
            .nullable()
            .describe('Somebody with almost that name'),
        }),
      ),
    }),
  }),
  scanState: route({
    method: 'GET',
    path: '/api/people/scan',
    access: 'people',
    summary: 'How far looking for faces has come',
    response: z.object({
      looked: z.number(),
      waiting: z.number().describe('Photos on attached drives that have not been looked at'),
      faces: z.number(),
      vectors: z.number(),
      exceptions: z.array(z.object({ driveId: z.uuid(), drive: z.string(), folder: z.string() })),
    }),
  }),
  scan: route({
    method: 'POST',
    path: '/api/people/scan',
    access: 'people',
    summary: 'Look for faces in all pictures that have not been looked at',
    response: done,
  }),
  setException: route({
    method: 'POST',
    path: '/api/people/exceptions',
    access: 'administer',
    summary: 'Switch looking for faces off, or on again, for a drive or a folder with all below it',
    body: z.object({ driveId: z.uuid(), folder: text.max(4000).default(''), off: z.boolean() }),
    response: done,
  }),
  forgetFaces: route({
    method: 'POST',
    path: '/api/people/forget',
    access: 'administer',
    summary: 'Delete faces and what they look like for good: of a person, or all',
    body: z.object({ personId: id.nullable().describe('Null: of everybody') }),
    response: z.object({ faces: z.number() }),
  }),
};
