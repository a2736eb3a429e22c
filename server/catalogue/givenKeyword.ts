// What keywords a term gives to files, before and after a change of the vocabulary.

/** That a term gives, or gave, a keyword. */
export interface GivenKeyword {
  termId: number;
  keyword: string;
  was: boolean;
  will: boolean;
}
