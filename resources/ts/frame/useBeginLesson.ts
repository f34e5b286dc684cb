import { useNavigate } from 'react-router';
import { useLesson } from '../data/lesson';
import type { Lesson } from '../data/lessons';
import { said } from '../data/said';

/** Makes a shot for a lesson, and goes there. */
export function useBeginLesson(): (lesson: Lesson) => Promise<void> {
    const go = useNavigate();
    return async (lesson) => {
        try {
            void go(`/shots/${await useLesson.getState().begin(lesson)}`);
        } catch (e) {
            said(e);
        }
    };
}
