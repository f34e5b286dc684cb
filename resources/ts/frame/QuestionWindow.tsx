import { useQuestion } from '../data/question';
import { Button, Window } from '../parts/controls';

/** A question put to the artist, with its answers as buttons. */
export function QuestionWindow() {
    const { asked, answer } = useQuestion();
    return (
        <Window open={asked !== null} onClose={() => answer(null)} title={asked?.title ?? ''}>
            <p className="mb-3">{asked?.text}</p>
            <div className="flex flex-wrap gap-2">
                {asked?.choices.map((c) => (
                    <Button key={c.value} tone={c.value === asked.likely ? 'loud' : 'plain'} autoFocus={c.value === asked.likely} onClick={() => answer(c.value)}>
                        {c.label}
                        {c.note && <span className="figure text-[12px] opacity-80">{c.note}</span>}
                    </Button>
                ))}
            </div>
        </Window>
    );
}
