/** The other side of a merge or an import. */
export interface OtherShow {
  from: { show: string } | { file: string };
  name: string;
}
