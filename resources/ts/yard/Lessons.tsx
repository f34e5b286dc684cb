import { Check, X } from 'lucide-react';
import { useLesson } from '../data/lesson';
import { LESSONS } from '../data/lessons';
import { useBeginLesson } from '../frame/useBeginLesson';

/** What somebody is offered who is here for the first time; never again once it was put away. */
export function Lessons() {
    const { dismissed, done, dismiss } = useLesson();
    const begin = useBeginLesson();
    if (dismissed) return null;
    return (
        <section aria-label="Lessons" className="corner mb-5 border border-line bg-paper p-4">
            <div className="flex items-baseline gap-3">
                <h2 className="font-semibold">New here? Five short lessons</h2>
                <p className="flex-1 text-soft">two minutes each, on shots of your own, done on the real page</p>
                <button type="button" onClick={dismiss} className="flex items-center gap-1 text-soft hover:text-ink"><X size={13} aria-hidden /> Not for me</button>
            </div>
            <ol className="mt-3 grid grid-cols-5 gap-3">
                {LESSONS.map((l, k) => (
                    <li key={l.id}>
                        <button type="button" onClick={() => void begin(l)} className="quick flex h-full w-full flex-col border border-line bg-raised p-2.5 text-left hover:border-ink">
                            <span className="flex w-full items-center gap-1.5 font-medium"><span className="figure text-[12px] text-soft">{k + 1}</span> {l.name}{done.includes(l.id) && <Check size={14} aria-label="done" className="ml-auto shrink-0 text-fine" />}</span>
                            <span className="mt-1 text-[12px] text-soft">{l.teaches}</span>
                        </button>
                    </li>
                ))}
            </ol>
        </section>
    );
}
