import { describe, expect, it } from 'vitest';
import type { Prop } from './document';
import { groupPatch, standsOf } from './groups';

const prop = (id: string, group?: string) => ({ id, ...(group === undefined ? {} : { group }) }) as Prop;

describe('groups of props', () => {
    const props = [prop('a'), prop('leg', 'Table'), prop('b'), prop('top', 'Table')];
    it('stand together where the first of them does', () => {
        expect(standsOf(props).map((s) => [s.group, s.props.map((p) => p.id)])).toEqual([[null, ['a']], ['Table', ['leg', 'top']], [null, ['b']]]);
    });
    it('are made and undone by a patch', () => {
        expect(groupPatch({ props }, ['a', 'top'], 'New')).toEqual([{ op: 'add', path: '/props/0/group', value: 'New' }, { op: 'add', path: '/props/3/group', value: 'New' }]);
        expect(groupPatch({ props }, ['a', 'leg', 'top'], null)).toEqual([{ op: 'remove', path: '/props/1/group' }, { op: 'remove', path: '/props/3/group' }]);
    });
});
