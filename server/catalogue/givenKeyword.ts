/** That a term gives, or gave, a keyword. */
export interface GivenKeyword {
  termId: number;
  keyword: string;
  was: boolean;
  will: boolean;
}
