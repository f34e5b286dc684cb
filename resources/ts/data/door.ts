import { create } from 'zustand';

/** Whether the yard keeps this browser out until it says the pass phrase. */
export const useDoor = create<{ closed: boolean }>(() => ({ closed: false }));
