import { askUntilTold } from './forces';

/** What can be said of cloth before it is baked. */
export interface ClothWords {
    /** Null as long as its pieces are being made. */
    words: string[] | null;
    /** Whether its faces are too large for its folds. */
    coarse: boolean;
}

export function askCloth(shot: string, prop: string, told: (words: ClothWords) => void): () => void {
    return askUntilTold(`shots/${shot}/props/${prop}/cloth`, told);
}
