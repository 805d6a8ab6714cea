/** Addresses of pictures of people and workspaces: their mark stands in it, so that another picture is another address. */

export const faceOf = (person: string, mark: string | null | undefined): string | null =>
  mark ? `/api/people/${person}/picture?v=${mark}` : null;

export const workspaceFace = (mark: string | null | undefined): string | null =>
  mark ? `/api/workspace/picture?v=${mark}` : null;
