import { create } from 'zustand';
import type { ShotDocument } from './document';
import { useShot } from './shot';
import { timecode } from './time';
import { useUi } from './ui';

export type Note = NonNullable<ShotDocument['notes']>[number];

/** A line of a mark: points in the scene. */
export type Line = [number, number, number][];

/** Lines and points of one that a mark may have. */
export const MOST_LINES = 20;
export const MOST_POINTS = 400;

/** A mark that is being drawn for the next note, and the note whose mark is looked at. */
export const useNotes = create<{ drawing: boolean; lines: Line[]; shown: number | null }>(() => ({ drawing: false, lines: [], shown: null }));

/** Keeps a note at a frame, with what is drawn. */
export function addNote(frame: number, text: string, prop: string | null = null): void {
    const { shot, edit } = useShot.getState();
    const words = text.trim().slice(0, 500);
    if (!shot || words === '') return;
    const { lines } = useNotes.getState();
    const note: Note = { frame, text: words, ...(prop === null ? {} : { prop }), ...(lines.length === 0 ? {} : { mark: lines }) };
    useNotes.setState({ drawing: false, lines: [], shown: (shot.document.notes ?? []).length });
    void edit(`Note at frame ${frame}`, [{ op: 'add', path: '/notes', value: [...(shot.document.notes ?? []), note] }]);
}

export function removeNote(at: number): void {
    useNotes.setState({ shown: null });
    void useShot.getState().edit('Remove a note', [{ op: 'remove', path: `/notes/${at}` }]);
}

/** Goes to a note: its frame, its prop, its mark. */
export function goToNote(note: Note, at: number): void {
    const known = note.prop !== undefined && useShot.getState().shot?.document.props.some((p) => p.id === note.prop);
    useNotes.setState({ shown: at, drawing: false });
    useUi.getState().set({ frame: note.frame, playing: false, ...(known ? { chosen: note.prop! } : {}) });
}

/** All notes of a shot as text, in the order of their frames: to be read without it. */
export function notesAsText({ name, frames, notes = [], props }: Pick<ShotDocument, 'name' | 'frames' | 'notes' | 'props'>): string {
    const of = (note: Note) => props.find((p) => p.id === note.prop)?.name;
    const lines = [...notes].sort((a, b) => a.frame - b.frame).map((n) => `${n.frame}\t${timecode(n.frame, frames.rate as [number, number])}\t${of(n) ?? ''}\t${n.text.replace(/\s+/g, ' ')}${n.mark === undefined ? '' : ' (marked in the picture)'}`);
    return [`Notes on ${name}`, 'frame\ttime\tprop\tnote', ...lines, ''].join('\n');
}
