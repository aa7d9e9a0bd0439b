/** A short note on what was done, with its undo where there is one. */
export interface Note {
  id: number;
  text: string;
  undo?: () => void;
}
