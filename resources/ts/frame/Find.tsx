import { Command } from 'cmdk';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate } from 'react-router';
import { bakeShot } from '../data/fall';
import { useLesson } from '../data/lesson';
import { useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { chooseAll, paste, takeCopy } from '../data/wholeProps';
import { useCatalogue } from '../data/useCatalogue';
import { actionsOf, type Action } from './actions';
import { pointAt } from './pointing';
import { STAGES } from './Spine';

/** Everything by name: stages, props, actions. */
export function Find() {
    const [open, setOpen] = useState(false);
    const document = useDocument();
    const go = useNavigate();
    const { set } = useUi.getState();
    useHotkeys('mod+k', () => setOpen(true), { preventDefault: true, enableOnFormTags: true });
    useEffect(() => {
        const show = () => setOpen(true);
        window.addEventListener('yard-find', show);
        return () => window.removeEventListener('yard-find', show);
    }, []);
    const catalogue = useCatalogue();
    const does = (action: Action) => () => {
        const first = document?.props.find((p) => !p.hidden)?.id ?? null;
        // What is done to a prop needs one; what makes one needs none.
        set({ stage: action.stage, ...(action.stage === 'props' && action.alone ? { chosen: null } : useUi.getState().chosen === null && !action.alone ? { chosen: first } : {}) });
        pointAt(action.at);
    };
    const entries: { name: string; words?: readonly string[]; run: () => void }[] = [
        ...STAGES.map((s) => ({ name: `Go to ${s.label}`, run: () => set({ stage: s.id }) })),
        { name: 'Go to the shot', run: () => set({ stage: 'shot' }) },
        ...(document?.props ?? []).map((p) => ({ name: `Choose ${p.name}`, run: () => set({ chosen: p.id }) })),
        { name: 'Add a prop', run: () => set({ stage: 'props', chosen: null }) },
        { name: 'Bake', words: ['simulate', 'compute', 'run', 'render'], run: () => void bakeShot() },
        { name: 'Play or stop', run: () => set({ playing: !useUi.getState().playing }) },
        { name: 'Frame the chosen prop', run: () => set({ frameAsked: useUi.getState().frameAsked + 1 }) },
        { name: 'Undo', run: () => void useShot.getState().undo() },
        { name: 'Redo', run: () => void useShot.getState().redo() },
        { name: 'What was done: go back to any of it', words: ['history', 'undo list', 'version', 'name a state'], run: () => window.dispatchEvent(new Event('yard-history')) },
        { name: 'Keys: look them up, or print them', words: ['shortcuts', 'keyboard', 'hotkeys', 'help'], run: () => window.dispatchEvent(new Event('yard-keys')) },
        { name: 'Copy the chosen prop', words: ['clipboard', 'duplicate', 'set-up'], run: () => useUi.getState().chosen !== null && takeCopy(useUi.getState().chosen!) },
        { name: 'Paste the copied prop', words: ['clipboard', 'duplicate'], run: () => void paste() },
        { name: 'Choose all props', words: ['select all', 'several'], run: () => chooseAll() },
        { name: 'Switch day and night', run: () => set({ theme: useUi.getState().theme === 'day' ? 'night' : 'day' }) },
        { name: 'Lessons: five short ones, on the real page', words: ['tutorial', 'learn', 'guide', 'introduction', 'how to', 'onboarding'], run: () => { useLesson.getState().offer(); void go('/'); } },
        { name: 'Back to the yard', run: () => void go('/') },
        ...actionsOf(catalogue).map((a) => ({ name: a.name, words: a.words, run: does(a) })),
    ];
    return (
        <Command.Dialog open={open} onOpenChange={setOpen} label="Find" className="fixed top-[14vh] left-1/2 z-50 w-[440px] -translate-x-1/2 border border-line bg-paper shadow-[0_2px_0_var(--line)]">
            <Command.Input placeholder="Type what you want to do" className="h-11 w-full border-b border-line bg-transparent px-4 text-[15px] outline-none" />
            <Command.List className="max-h-80 overflow-auto p-1.5">
                <Command.Empty className="p-3 text-soft">Nothing of that name.</Command.Empty>
                {entries.map((e) => (
                    <Command.Item
                        key={e.name}
                        keywords={[...(e.words ?? [])]}
                        onSelect={() => {
                            setOpen(false);
                            e.run();
                        }}
                        className="cursor-pointer px-2.5 py-1.5 data-[selected=true]:bg-chosen data-[selected=true]:text-on-chosen"
                    >
                        {e.name}
                    </Command.Item>
                ))}
            </Command.List>
        </Command.Dialog>
    );
}
