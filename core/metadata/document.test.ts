import { documentOf } from './document';

test('a document is what its lines say; its text is one line, and not endless', () => {
  const lines = `Title:           Festival of kites: June
Author:          Saltmarsh Kite Museum
Keywords:        kite, wind;
Producer:        Press 2
CreationDate:    2014-06-01T10:00:00+02
Pages:           2
Page size:       419.53 x 595.28 pts (A5)
`;
  expect(documentOf(lines, ' Rokkaku\n\n battle ')).toEqual({
    width: 839,
    height: 1191,
    facts: { pages: 2, text: 'Rokkaku battle', software: 'Press 2', takenAt: '2014-06-01T10:00:00', offset: '+02:00' },
    fields: { title: 'Festival of kites: June', creator: ['Saltmarsh Kite Museum'], keywords: ['kite', 'wind'] },
  });
  expect(documentOf('', 'kite '.repeat(10_000)).facts.text?.length).toBe(20_000);
  expect(documentOf('Pages: many\nPage size: large\nCreationDate: long ago', '')).toEqual({ facts: {}, fields: {} });
});
