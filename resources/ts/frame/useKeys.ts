import { useHotkeys } from 'react-hotkeys-hook';
import { useBake } from '../data/bake';
import { bakeShot } from '../data/fall';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { copyKeys, moved, pasteKeys, removeKeys, setKey, shiftKeys } from '../data/keys';
import { currentMoments } from '../data/moments';
import { copyProp, paste, removeProp, takeCopy } from '../data/wholeProps';
import { withEnd } from '../data/play';
import { allKeys } from '../cue-sheet/allKeys';
import { STAGES } from './Spine';
import { useCameraKeys } from './useCameraKeys';

/** The keyboard, as listed in KeysWindow. */
export function useKeys(): void {
    const { set } = useUi.getState();
    const frames = () => useShot.getState().shot!.document.frames;
    const go = (frame: number) => set({ frame: Math.min(frames().last, Math.max(frames().first, frame)), playing: false });
    // The playhead has the role of a slider, a choice that of a radio: neither takes letters or digits for itself.
    const onChoices = { enableOnFormTags: ['slider', 'radio', 'menuitem'] } as const;
    useHotkeys('1,2,3,4,5,6', (e) => set({ stage: STAGES[Number(e.key) - 1]!.id }), onChoices);
    useHotkeys('0', () => set({ stage: 'shot' }), onChoices);
    const onPlayhead = { preventDefault: true, enableOnFormTags: ['slider'] } as const;
    useHotkeys('space', () => set({ playing: !useUi.getState().playing }), onPlayhead);
    useHotkeys('left', () => go(useUi.getState().frame - 1), onPlayhead);
    useHotkeys('right', () => go(useUi.getState().frame + 1), onPlayhead);
    useHotkeys('shift+left,shift+right', (e) => go(nextCue(e.key === 'ArrowLeft' ? -1 : 1)), onPlayhead);
    useHotkeys('home', () => go(useUi.getState().range?.[0] ?? frames().first), onPlayhead);
    useHotkeys('end', () => go(useUi.getState().range?.[1] ?? frames().last), onPlayhead);
    useHotkeys('bracketleft,bracketright', (e) => set({ range: withEnd(frames(), useUi.getState().range, e.code === 'BracketLeft' ? 0 : 1, useUi.getState().frame) }), onPlayhead);
    useHotkeys('delete,backspace', (e) => {
        const { keys, chosen, picked } = useUi.getState();
        if (keys.length > 0) removeKeys(keys);
        else if (e.key === 'Delete' && chosen !== null && picked.length === 0) void removeProp(chosen);
        set({ keys: [] });
    }, onPlayhead);
    useHotkeys('mod+d', () => useUi.getState().chosen !== null && void copyProp(useUi.getState().chosen!), { ...onChoices, preventDefault: true });
    useHotkeys('mod+c', () => {
        const { keys, chosen } = useUi.getState();
        if (keys.length === 0 && chosen !== null) takeCopy(chosen);
        else set({ cut: copyKeys(keys) });
    }, onPlayhead);
    useHotkeys('mod+v', () => {
        const { cut, frame, chosen } = useUi.getState();
        if (cut.length > 0) set({ keys: pasteKeys(cut, frame, chosen) });
        else void paste();
    }, onPlayhead);
    // Picked keys move by frames; all of them from the playhead on are picked at once.
    useHotkeys('comma,period,shift+comma,shift+period', (e) => {
        const { keys } = useUi.getState();
        const by = (e.code === 'Comma' ? -1 : 1) * (e.shiftKey ? 5 : 1);
        if (keys.length > 0 && shiftKeys(keys, by, false)) set({ keys: keys.map((k) => moved(k, by)) });
    }, onPlayhead);
    useHotkeys('mod+shift+a', () => set({ keys: allKeys(useUi.getState().frame).map((k) => k.name) }), onPlayhead);
    useHotkeys('mod+a', () => set({ keys: allKeys().map((k) => k.name) }), onPlayhead);
    useHotkeys('escape', () => set({ keys: [] }), onChoices);
    useCameraKeys(onPlayhead.enableOnFormTags);
    useHotkeys('b', () => void bakeShot(), onChoices);
    useHotkeys('f', () => set({ frameAsked: useUi.getState().frameAsked + 1 }), onChoices);
    useHotkeys('k', () => useUi.getState().chosen && setKey(useUi.getState().chosen!, useUi.getState().frame), onChoices);
    useHotkeys('mod+z', () => void useShot.getState().undo(), { ...onChoices, preventDefault: true });
    useHotkeys('mod+shift+z', () => void useShot.getState().redo(), { ...onChoices, preventDefault: true });
}

/** The nearest frame in that direction at which something happens. */
function nextCue(direction: 1 | -1): number {
    const { frame } = useUi.getState();
    const document = useShot.getState().shot!.document;
    const cues = [document.frames.first, document.frames.last, ...allKeys().map((k) => k.frame)];
    const moments = currentMoments();
    for (const { motion } of document.props) if (motion.release?.on === 'frame') cues.push(motion.release.frame);
    for (const at of Object.values(moments.frames)) if (at !== null) cues.push(at);
    for (const note of document.notes ?? []) cues.push(note.frame);
    for (const f of useBake.getState().figures) if (f.marks.length > 0) cues.push(f.frame);
    const ahead = cues.filter((c) => (c - frame) * direction > 0);
    return ahead.length === 0 ? frame : direction > 0 ? Math.min(...ahead) : Math.max(...ahead);
}
