import { Download, X } from 'lucide-react';
import { goToNote, notesAsText, removeNote, useNotes } from '../data/notes';
import { useDocument } from '../data/shot';
import { Button, Section } from '../parts/controls';

/** All notes of the shot: a press goes to one; as text they can be read without it. */
export function Notes() {
    const document = useDocument();
    const shown = useNotes((s) => s.shown);
    const notes = document?.notes ?? [];
    if (document === null) return null;
    const order = notes.map((note, k) => ({ note, k })).sort((a, b) => a.note.frame - b.note.frame);
    const save = () => {
        const link = window.document.createElement('a');
        link.href = URL.createObjectURL(new Blob([notesAsText(document)], { type: 'text/plain' }));
        link.download = `${document.name} notes.txt`;
        link.click();
        URL.revokeObjectURL(link.href);
    };
    return (
        <Section title="Notes" aside={notes.length === 0 ? '' : String(notes.length)}>
            {notes.length === 0 ? <p className="text-soft">None yet. <i>+ Note</i>, in the cue sheet, keeps a few words at the playhead, on a prop, with a mark drawn in the picture.</p> : (
                <>
                    <ul aria-label="Notes">
                        {order.map(({ note, k }) => (
                            <li key={k} className={`flex items-baseline border-b border-dotted border-line ${shown === k ? 'bg-[var(--wash)]' : ''}`}>
                                <button type="button" onClick={() => goToNote(note, k)} className="flex min-w-0 flex-1 items-baseline gap-2 py-1 text-left hover:underline">
                                    <span className="figure w-[34px] shrink-0 text-right text-[12px] text-soft">{note.frame}</span>
                                    <span className="min-w-0 flex-1">{note.text}</span>
                                    <span className="shrink-0 text-[12px] text-soft">{document.props.find((p) => p.id === note.prop)?.name}{note.mark === undefined ? '' : ' ✎'}</span>
                                </button>
                                <button type="button" aria-label={`Remove the note ${note.text}`} onClick={() => removeNote(k)} className="p-1 text-soft hover:text-ink"><X size={12} /></button>
                            </li>
                        ))}
                    </ul>
                    <Button className="mt-2" onClick={save} title="They leave with the packed shot too"><Download size={13} aria-hidden /> As text</Button>
                </>
            )}
        </Section>
    );
}
