import { create } from 'zustand';
import { api } from './api';
import { LESSONS, type Lesson } from './lessons';
import { useUi } from './ui';

/** How far one has come: kept in the browser, as it is about who sits there. */
interface Kept {
    /** They are offered no more by themselves. */
    dismissed: boolean;
    /** Ids of those that were done. */
    done: readonly string[];
    /** The one that is being done, on which shot, and at which step. */
    on: { id: string; shot: string; step: number } | null;
}

interface LessonState extends Kept {
    /** Makes a shot for a lesson; its id. */
    begin: (lesson: Lesson) => Promise<string>;
    dismiss: () => void;
    /** They are offered once more. */
    offer: () => void;
    leave: () => void;
    goOn: (step: number) => void;
}

const KEY = 'lessons';

/** The folder of the yard that their shots lie in. */
const FOLDER = 'Lessons';

const NEW: Kept = { dismissed: false, done: [], on: null };

function read(): Kept {
    try {
        return { ...NEW, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>) };
    } catch {
        return NEW;
    }
}

export const useLesson = create<LessonState>((set, get) => {
    const keep = (part: Partial<Kept>) => {
        set(part);
        const { dismissed, done, on } = get();
        localStorage.setItem(KEY, JSON.stringify({ dismissed, done, on }));
    };
    return {
        ...(typeof localStorage === 'undefined' ? NEW : read()),
        begin: async (lesson) => {
            const made = await api.newShot({ demo: 'terracotta-jar' });
            const shot = await api.edit(made.id, made.revision, [{ op: 'replace', path: '/name', value: `Lesson: ${lesson.name.toLowerCase()}` }, ...lesson.begin], 'Set up');
            await api.placeShot(shot.id, { folder: FOLDER });
            // Where somebody was before is nothing to it.
            useUi.getState().set({ stage: 'props', frame: 0, playing: false, spread: 0 });
            keep({ on: { id: lesson.id, shot: shot.id, step: 0 } });
            return shot.id;
        },
        dismiss: () => keep({ dismissed: true }),
        offer: () => keep({ dismissed: false }),
        leave: () => keep({ on: null }),
        goOn: (step) => {
            const { on, done } = get();
            const lesson = LESSONS.find((l) => l.id === on?.id);
            if (on === null || lesson === undefined || step === on.step) return;
            keep({ on: { ...on, step }, ...(step >= lesson.steps.length && !done.includes(on.id) ? { done: [...done, on.id] } : {}) });
        },
    };
});
