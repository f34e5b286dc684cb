import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type Catalogue } from '../data/api';
import type { Prop } from '../data/document';
import { isUsual } from '../data/make';
import { said } from '../data/said';
import { useShot } from '../data/shot';

/** What things of a material are at first: one's own say may take the place of what is given. */
export function MaterialUsual({ prop, materials }: { prop: Prop; materials: Catalogue['materials'] }) {
    const queries = useQueryClient();
    const usual = materials[prop.material.name];
    if (usual === undefined) return null;
    const take = async (work: Promise<Catalogue['materials']>, words: string) => {
        try {
            const next = await work;
            queries.setQueryData<Catalogue>(['catalogue'], (before) => before && { ...before, materials: next });
            toast.success(words);
        } catch (e) {
            said(e);
        }
    };
    const keep = async () => take(api.keepMaterial(useShot.getState().shot!.id, prop.id), `What is made of ${usual.label.toLowerCase()} begins so from now on.`);
    const forget = async () => take(api.forgetMaterial(prop.material.name), `What is made of ${usual.label.toLowerCase()} begins as given again.`);
    const link = 'underline decoration-dotted underline-offset-2 hover:text-ink';
    const same = isUsual(prop.material, usual);
    if (same && usual.own !== true) return null;
    return (
        <p className="flex gap-3 py-1 text-[12px] text-soft">
            {!same && <button type="button" className={link} title="Every prop that is made of it later begins with these colours, density, friction, bounce and pictures" onClick={() => void keep()}>Keep as the usual {usual.label.toLowerCase()}</button>}
            {usual.own === true && <button type="button" className={link} title="Props that are there stay as they are" onClick={() => void forget()}>The given {usual.label.toLowerCase()} again</button>}
        </p>
    );
}
