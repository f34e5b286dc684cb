import { create } from 'zustand';

interface Question {
    title: string;
    text: string;
    choices: readonly { value: string; label: string; note?: string }[];
    /** Which is most likely meant. */
    likely: string;
}

interface QuestionState {
    asked: Question | null;
    answer: (value: string | null) => void;
}

export const useQuestion = create<QuestionState>(() => ({ asked: null, answer: () => undefined }));

/** Asks something that only the artist can know; null where it is left unanswered. */
export function askFor(question: Question): Promise<string | null> {
    useQuestion.getState().answer(null);
    return new Promise((resolve) => {
        useQuestion.setState({
            asked: question,
            answer: (value) => {
                useQuestion.setState({ asked: null, answer: () => undefined });
                resolve(value);
            },
        });
    });
}
