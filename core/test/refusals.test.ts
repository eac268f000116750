/** What commands on accounts, people, codes, fields, views and delays say, word for word: their labels in the log, and why they refuse, with the place. */
import { addAccount, addCurrency, deleteAccount, deleteCurrency, importAccounts, moveAccount, setAccount, setCurrency } from '@yellowhammer/core/commands/accounts';
import { adopt, adoptField, adoptSet, mergeSets } from '@yellowhammer/core/commands/alike';
import { assign, assignCrew, reassign, setAssignment, typeAssignments, unassign } from '@yellowhammer/core/commands/assign';
import { addCodeSet, addCodeValue, deleteCodeSet, deleteCodeValue, editCodeSet, editCodeValue, moveCodeValue } from '@yellowhammer/core/commands/codes';
import { clearDelays, holdBack, takeDelays } from '@yellowhammer/core/commands/level';
import { addOwnField, deleteOwnField, editOwnField, fillStandard, setOwn } from '@yellowhammer/core/commands/own-fields';
import { addPeople, addRoles, deletePeople, importResources, roleLists, setPeople } from '@yellowhammer/core/commands/resources';
import { addLook, deleteLook, deleteView, editLook, editView, keepView } from '@yellowhammer/core/commands/views';
import type { Document } from '@yellowhammer/core/model/document';
import { usualSettings } from '@yellowhammer/core/model/view-schema';
import { parseInstant } from '@yellowhammer/core/time/instant';
import { codeSetOf, must, mustBack, ownFieldOf, peopledPlan, sure, tells, tellsEach, viewIn } from './helpers';

let n = 0;
const newId = (): string => `r${++n}`;
/** A plan with a few of everything: Building (100) holds Stone (110); Fees has no number. Ana works on A, the rigger on B. */
function plan(): Document {
  const doc = peopledPlan(
    {
      activities: [
        ['A', '10d', {}],
        ['B', '5d', {}],
        ['M', 'finish', {}],
        ['G', 'margin 2d', {}],
        ['H', '2d', { levellingDelay: 480 }],
        ['S', '2d', { actualStart: '2026-03-02T08:00', remaining: 480 }],
        ['P', '2d', { constraints: [{ kind: 'pinnedStart', date: '2026-03-09T08:00' }] }],
      ],
      project: { currency: 'SEK', dataDate: '2026-03-03T08:00' },
      links: ['A > B'],
    },
    {
      accounts: [
        { id: 'a', code: '100', name: 'Building', rank: 0 },
        { id: 'b', code: '110', name: 'Stone', parentId: 'a', rank: 1 },
        { id: 'f', name: 'Fees', rank: 2 },
      ],
      resourceGroups: [{ id: 'yard', name: 'Yard' }],
      roles: [
        { id: 'rigger', name: 'rigger' },
        { id: 'mason', name: 'mason' },
      ],
      resources: [{ id: 'ana', name: 'Ana', roleId: 'mason' }, { id: 'bo' }, { id: 'bob' }, { id: 'lime', kind: 'material', unit: 't' }],
      crews: [
        { id: 'gang', name: 'Gang', lines: [{ resourceId: 'ana', roleId: null, units: 1 }] },
        { id: 'none', name: 'Nobody', lines: [] },
      ],
      assignments: [
        { activityId: 'A', resourceId: 'ana', work: 4_800_000 },
        { activityId: 'B', roleId: 'rigger', work: 2_400_000 },
        { activityId: 'B', resourceId: 'lime', drives: false, quantity: 3 },
        { activityId: 'B', resourceId: 'ana', work: 2_400_000 },
      ],
      expenses: [{ budget: 7, accountId: 'b' }],
    },
  );
  doc.currencies.set('eur', { id: 'eur', rank: 0, name: 'EUR', rate: 11, asOf: '2026-03-01' });
  doc.codeSets.set('area', codeSetOf('area', 'Area', [['North'], ['N1', 'First', 'area.North'], ['South']]));
  doc.codeSets.set('crew', codeSetOf('crew', 'Crew', [['Red'], ['Blue']]));
  doc.ownFields.set('depth', ownFieldOf('depth', 'Depth'));
  doc.ownFields.set('width', ownFieldOf('width', 'Width', { kind: 'number', rank: 1 }));
  doc.ownFields.set('size', ownFieldOf('size', 'Size', { kind: 'computed', rank: 2, expression: 'width * 2' }));
  doc.ownFields.set('badge', ownFieldOf('badge', 'Badge', { of: 'resources', rank: 3 }));
  const a = sure(doc.activities.get('A'));
  doc.activities.set('A', { ...a, values: { 'code:area': 'area.N1', 'own:depth': 'deep' } });
  return doc;
}
const words = (name: string, cases: Parameters<typeof tellsEach>[2]): void => tellsEach(name, plan, cases);

words('accounts', [
  ['without a name', (d) => addAccount(d, { name: '  ', code: '9' }, newId), 'WRONG_VALUE An account needs a name. @'],
  ['a number that is taken', (d) => addAccount(d, { name: 'Other', code: '110' }, newId), 'NAME_TAKEN There is an account 110 Stone already. Type another number. @'],
  ['a name that is taken', (d) => addAccount(d, { name: 'FEES' }, newId), 'NAME_TAKEN There is an account Fees already. Type another name, or a number. @'],
  ['the name of one with a number', (d) => addAccount(d, { name: ' Stone ' }, newId), 'Add account Stone'],
  ['a name that is taken with a number of its own', (d) => addAccount(d, { name: 'Fees', code: '9' }, newId), 'Add account Fees'],
  ['changing what is gone', (d) => setAccount(d, 'zz', {}), 'UNKNOWN_ACCOUNT That account is not there any more. @'],
  ['changing nothing', (d) => setAccount(d, 'b', { name: ' Stone ', code: ' 110 ' }), 'NOTHING_CHANGED It is so already. @'],
  ['into itself', (d) => setAccount(d, 'a', { parentId: 'b' }), 'WRONG_VALUE Building cannot lie in itself. @'],
  ['changing', (d) => setAccount(d, 'b', { code: '111' }), 'Change account Stone'],
  ['renaming', (d) => setAccount(d, 'b', { name: 'Lime' }), 'Change account Lime'],
  ['moving what is gone', (d) => moveAccount(d, 'zz', 1), 'UNKNOWN_ACCOUNT That account is not there any more. @'],
  ['moving the first up', (d) => moveAccount(d, 'a', -1), 'AT_THE_END There is nothing further up. @'],
  ['moving the last down', (d) => moveAccount(d, 'f', 1), 'AT_THE_END There is nothing further down. @'],
  ['moving one that lies alone', (d) => moveAccount(d, 'b', -1), 'AT_THE_END There is nothing further up. @'],
  ['moving up', (d) => moveAccount(d, 'f', -1), 'Move Fees up'],
  ['moving down', (d) => moveAccount(d, 'a', 1), 'Move Building down'],
  ['deleting what is gone', (d) => deleteAccount(d, 'zz'), 'UNKNOWN_ACCOUNT That account is not there any more. @'],
  ['deleting one in use', (d) => deleteAccount(d, 'b'), 'IN_USE 110 Stone is named by 1 row. Choose what they are booked to in its place. @accounts/b'],
  ['deleting for itself', (d) => deleteAccount(d, 'b', 'b'), 'WRONG_VALUE Choose another account. @'],
  ['deleting for what is gone', (d) => deleteAccount(d, 'b', 'zz'), 'WRONG_VALUE Choose another account. @'],
  ['deleting for none', (d) => deleteAccount(d, 'b', null), 'Delete account Stone'],
  ['deleting one not in use', (d) => deleteAccount(d, 'f'), 'Delete account Fees'],
  ['an empty list', (d) => importAccounts(d, [['', ' ']], newId), 'WRONG_VALUE The list is empty. Paste rows with number, name, and the account above. @'],
  ['heads alone', (d) => importAccounts(d, [['Number', ' NAME ']], newId), 'WRONG_VALUE The list is empty. Paste rows with number, name, and the account above. @'],
  ['a list that is there', (d) => importAccounts(d, [['100', 'Building']], newId), 'NOTHING_CHANGED All of them are there just so. @'],
  ['a list of one', (d) => importAccounts(d, [['100', 'Works']], newId), 'Take over 1 account'],
  [
    'a list of two',
    (d) =>
      importAccounts(
        d,
        [
          ['1', 'x'],
          ['2', 'y', 'x'],
        ],
        newId,
      ),
    'Take over 2 accounts',
  ],
  ['a line without a name', (d) => importAccounts(d, [['1', 'x'], ['7']], newId), 'WRONG_VALUE Line 2 (7): it has no name. Nothing was taken. @'],
  [
    'a line under what is not there',
    (d) =>
      importAccounts(
        d,
        [
          ['name', 'above'],
          ['x', 'y'],
        ],
        newId,
      ),
    'WRONG_VALUE Line 2 (x): there is no account y above it. Put that line before it. Nothing was taken. @',
  ],
  ['a line under itself', (d) => importAccounts(d, [['100', 'Building', '100']], newId), 'WRONG_VALUE Line 1 (Building): it cannot lie in itself. Nothing was taken. @'],
  ['a line under what lies in it', (d) => importAccounts(d, [['100', 'Building', '110']], newId), 'WRONG_VALUE Line 1 (Building): it cannot lie in itself. Nothing was taken. @'],
]);

words('currencies', [
  ['without a name', (d) => addCurrency(d, { name: ' ', rate: 1, asOf: '2026-03-01' }, newId), 'WRONG_VALUE A currency needs a short name. @'],
  [
    'a rate of 0',
    (d) => addCurrency(d, { name: 'USD', rate: 0, asOf: '2026-03-01' }, newId),
    'WRONG_VALUE A rate is above 0: what one of it is worth in the project’s currency. @',
  ],
  ['the greatest rate', (d) => addCurrency(d, { name: 'USD', rate: 1e6, asOf: '2026-03-01' }, newId), 'Add currency USD'],
  ['a rate too great', (d) => setCurrency(d, 'eur', { rate: 1_000_001 }), 'WRONG_VALUE A rate is above 0: what one of it is worth in the project’s currency. @'],
  ['the project’s own', (d) => addCurrency(d, { name: ' sek', rate: 1, asOf: '2026-03-01' }, newId), 'NAME_TAKEN sek is the project’s own currency. @'],
  ['one that is there', (d) => addCurrency(d, { name: 'eur', rate: 1, asOf: '2026-03-01' }, newId), 'NAME_TAKEN There is a currency eur already. @'],
  ['changing', (d) => setCurrency(d, 'eur', { name: ' EURO ' }), 'Change currency EURO'],
  ['changing nothing', (d) => setCurrency(d, 'eur', { name: ' EUR ', rate: 11 }), 'NOTHING_CHANGED It is so already. @'],
  ['changing what is gone', (d) => setCurrency(d, 'zz', {}), 'UNKNOWN_CURRENCY That currency is not there any more. @'],
  ['deleting', (d) => deleteCurrency(d, 'eur'), 'Delete currency EUR'],
  ['deleting what is gone', (d) => deleteCurrency(d, 'zz'), 'UNKNOWN_CURRENCY That currency is not there any more. @'],
]);

words('people', [
  ['a role without a name', (d) => addPeople(d, 'roles', ' ', {}, newId), 'WRONG_VALUE A role needs a name. @'],
  ['a resource of a name that is taken', (d) => addPeople(d, 'resources', ' ANA', {}, newId), 'NAME_TAKEN There is a resource Ana already. Type another name. @resources/ana'],
  ['a resource', (d) => addPeople(d, 'resources', ' Eve ', {}, newId), 'Add resource Eve'],
  ['a group', (d) => addPeople(d, 'resourceGroups', 'Office', {}, newId), 'Add group of resources Office'],
  ['a crew', (d) => addPeople(d, 'crews', 'Other', {}, newId), 'Add crew Other'],
  ['changing a crew that is gone', (d) => setPeople(d, 'crews', 'zz', {}), 'UNKNOWN_CREW That crew is not there any more. @'],
  ['changing a role that is gone', (d) => setPeople(d, 'roles', 'zz', {}), 'UNKNOWN_ROLE That role is not there any more. @'],
  ['a name that is taken', (d) => setPeople(d, 'roles', 'mason', { name: 'Rigger' }), 'NAME_TAKEN There is a role rigger already. Type another name. @roles/rigger'],
  ['its own name in capitals', (d) => setPeople(d, 'roles', 'mason', { name: 'MASON' }), 'Change role MASON'],
  ['another field', (d) => setPeople(d, 'roles', 'mason', { about: 'stone' }), 'Change role mason'],
  ['nothing', (d) => setPeople(d, 'roles', 'mason', { about: '' }), 'NOTHING_CHANGED It is so already. @'],
  [
    'a material of who is assigned',
    (d) => setPeople(d, 'resources', 'ana', { kind: 'material' }),
    'IN_USE Ana is assigned. A material has a quantity, all else work: take its assignments away first. @resources/ana',
  ],
  [
    'labour of a material that is assigned',
    (d) => setPeople(d, 'resources', 'lime', { kind: 'labour' }),
    'IN_USE lime is assigned. A material has a quantity, all else work: take its assignments away first. @resources/lime',
  ],
  ['equipment of who is assigned', (d) => setPeople(d, 'resources', 'ana', { kind: 'equipment' }), 'Change resource Ana'],
  ['a material of who is not assigned', (d) => setPeople(d, 'resources', 'bo', { kind: 'material' }), 'Change resource bo'],
  ['another unit of a material that is assigned', (d) => setPeople(d, 'resources', 'lime', { unit: 'kg', kind: 'material' }), 'Change resource lime'],
  ['deleting what is gone', (d) => deletePeople(d, 'resourceGroups', 'zz'), 'UNKNOWN_GROUP That group of resources is not there any more. @'],
  ['deleting a resource', (d) => deletePeople(d, 'resources', 'ana'), 'Delete resource Ana'],
  ['deleting a role', (d) => deletePeople(d, 'roles', 'rigger'), 'Delete role rigger'],
  ['the roles of a trade', (d) => addRoles(d, { trade: 'x', roles: ['mason', 'smith', 'baker'] }, newId), 'Add 2 roles'],
  ['one role', (d) => addRoles(d, { trade: 'x', roles: ['mason', 'smith'] }, newId), 'Add 1 role'],
  ['roles that are there', (d) => addRoles(d, { trade: 'x', roles: ['mason', 'rigger'] }, newId), 'NOTHING_CHANGED All of these roles are there already. @'],
  [
    'an empty list',
    (d) => importResources(d, [['Name']], '2026-03-02', newId),
    'WRONG_VALUE The list is empty. Paste rows with a name each, and perhaps kind, role, group, units and rate. @',
  ],
  ['a line without a name', (d) => importResources(d, [['Eve'], ['']], '2026-03-02', newId), 'WRONG_VALUE Line 2 (): it has no name. Nothing was taken. @'],
  [
    'a line of no kind',
    (d) =>
      importResources(
        d,
        [
          ['name', 'kind'],
          ['Eve', 'Ghost'],
        ],
        '2026-03-02',
        newId,
      ),
    'WRONG_VALUE Line 2 (Eve): ghost is no kind; labour, equipment or material is wanted. Nothing was taken. @',
  ],
  [
    'units that are none',
    (d) => importResources(d, [['Eve', '', '', '', 'two']], '2026-03-02', newId),
    'WRONG_VALUE Line 1 (Eve): two cannot be read as units. Nothing was taken. @',
  ],
  ['a rate below 0', (d) => importResources(d, [['Eve', '', '', '', '', '-1']], '2026-03-02', newId), 'WRONG_VALUE Line 1 (Eve): -1 cannot be read as rate. Nothing was taken. @'],
  ['the most units', (d) => importResources(d, [['Eve', '', '', '', '1000000']], '2026-03-02', newId), 'Take over 1 resource'],
  [
    'units beyond',
    (d) => importResources(d, [['Eve', '', '', '', '1000000.001']], '2026-03-02', newId),
    'WRONG_VALUE Line 1 (Eve): 1000000.001 cannot be read as units. Nothing was taken. @',
  ],
  [
    'a material of who is assigned, by a list',
    (d) => importResources(d, [['ANA', 'material']], '2026-03-02', newId),
    'WRONG_VALUE Line 1 (ANA): it is assigned, and cannot become or stop being a material. Nothing was taken. @',
  ],
  ['a list that is there', (d) => importResources(d, [['Ana', 'labour', 'Mason']], '2026-03-02', newId), 'NOTHING_CHANGED All of them are there just so. @'],
  ['a list of two', (d) => importResources(d, [['Eve'], ['Ada']], '2026-03-02', newId), 'Take over 2 resources'],
]);

const ana = { resourceId: 'ana', roleId: null };
words('assignments', [
  ['nobody', (d) => assign(d, ['A'], [], newId), 'UNKNOWN_RESOURCE Whom to assign is not in the project. Add the resource or role first. @'],
  [
    'somebody who is gone',
    (d) => assign(d, ['A'], [{ ...ana, resourceId: 'zz', units: 1 }], newId),
    'UNKNOWN_RESOURCE Whom to assign is not in the project. Add the resource or role first. @',
  ],
  ['to nothing', (d) => assign(d, ['zz'], [{ ...ana, units: 1 }], newId), 'NOTHING_SELECTED Select activities first. @'],
  [
    'to a milestone',
    (d) => assign(d, ['A', 'M'], [{ ...ana, resourceId: 'bo', units: 1 }], newId),
    'WRONG_TYPE M M is a milestone, and takes no assignments. Select tasks or levels of effort. @activities/M/M M',
  ],
  [
    'to a margin',
    (d) => assign(d, ['G'], [{ ...ana, units: 1 }], newId),
    'WRONG_TYPE G G is a margin, and takes no assignments. Select tasks or levels of effort. @activities/G/G G',
  ],
  [
    'two to one',
    (d) =>
      assign(
        d,
        ['H'],
        [
          { ...ana, units: 1 },
          { resourceId: null, roleId: 'rigger', units: 2 },
        ],
        newId,
      ),
    'Assign Ana, rigger to H H',
  ],
  ['one to two', (d) => assign(d, ['H', 'H', 'S'], [{ ...ana, units: 1 }], newId), 'Assign Ana to 2 activities'],
  ['a crew that is gone', (d) => assignCrew(d, ['H'], 'zz', 1, newId), 'UNKNOWN_CREW That crew is not in the project any more. @'],
  ['a crew of nobody', (d) => assignCrew(d, ['H'], 'none', 1, newId), 'UNKNOWN_RESOURCE Crew Nobody has nobody in it. Add resources or roles to it first. @'],
  ['a crew', (d) => assignCrew(d, ['H', 'S'], 'gang', 2, newId), 'Assign crew Gang to 2 activities'],
  ['a crew to nothing', (d) => assignCrew(d, [], 'gang', 2, newId), 'NOTHING_SELECTED Select activities first. @'],
  ['taking what is gone', (d) => unassign(d, ['zz']), 'UNKNOWN_ASSIGNMENT That assignment is not there any more. @'],
  ['taking one away', (d) => unassign(d, ['x0']), 'Take Ana off A A'],
  ['taking two away', (d) => unassign(d, ['x0', 'x1']), 'Take 2 assignments off 2 activities'],
  ['setting what is gone', (d) => setAssignment(d, 'zz', { units: 2 }), 'UNKNOWN_ASSIGNMENT That assignment is not there any more. @'],
  ['setting two fields', (d) => setAssignment(d, 'x0', { units: 2, actualCost: 5 }), 'Set units, actual cost of Ana on A A'],
  ['giving what is gone', (d) => reassign(d, ['zz'], ana), 'UNKNOWN_ASSIGNMENT That assignment is not there any more. @'],
  ['giving to who is gone', (d) => reassign(d, ['x0'], { ...ana, resourceId: 'zz' }), 'UNKNOWN_RESOURCE Whom to assign is not in the project any more. @'],
  ['giving to who has it', (d) => reassign(d, ['x0'], ana), 'NOTHING_CHANGED Ana has them already. @'],
  ['giving to who is there already', (d) => reassign(d, ['x1'], ana), 'ASSIGNMENT_SET_ASIDE B B: Ana is assigned there already. Change the units instead. @activities/B'],
  [
    'giving work to a material',
    (d) => reassign(d, ['x0'], { ...ana, resourceId: 'lime' }),
    'WRONG_TYPE lime cannot take that over: a material has a quantity, all else units and work. @',
  ],
  [
    'giving a material to people',
    (d) => reassign(d, ['x2'], { ...ana, resourceId: 'bo' }),
    'WRONG_TYPE bo cannot take that over: a material has a quantity, all else units and work. @',
  ],
  ['giving two', (d) => reassign(d, ['x0', 'x3'], { resourceId: null, roleId: 'mason' }), 'Give 2 assignments to mason'],
  ['giving one', (d) => reassign(d, ['x1'], { ...ana, resourceId: 'bo' }), 'Give 1 assignment to bo'],
  ['typing for what is gone', (d) => typeAssignments(d, 'zz', 'Ana', newId), 'UNKNOWN_ACTIVITY That activity is not in the plan any more. @'],
  [
    'typing who is not there',
    (d) => typeAssignments(d, 'A', 'Ana, smith 2', newId),
    'UNKNOWN_RESOURCE A A: smith is no resource or role of the project. Add it in the Library, or type another name. @activities/A/A A/assignments',
  ],
  ['typing what may be two', (d) => typeAssignments(d, 'H', 'b 2', newId), 'UNKNOWN_RESOURCE H H: b may be bo or bob. Type more of the name. @activities/H/H H/assignments'],
  ['typing too much', (d) => typeAssignments(d, 'H', 'bob 1000001', newId), 'UNKNOWN_RESOURCE H H: bob: units are above 0 and at most 1,000,000. @activities/H/H H/assignments'],
  ['typing nothing of it', (d) => typeAssignments(d, 'H', 'bob 0', newId), 'UNKNOWN_RESOURCE H H: bob: units are above 0 and at most 1,000,000. @activities/H/H H/assignments'],
  ['typing one twice', (d) => typeAssignments(d, 'H', 'bob, BOB 2', newId), 'UNKNOWN_RESOURCE H H: bob is there twice. Add the units up. @activities/H/H H/assignments'],
  ['typing', (d) => typeAssignments(d, 'H', 'an; mason 50%', newId), 'Assign Ana, mason to H H'],
  ['typing nobody', (d) => typeAssignments(d, 'A', ' , ', newId), 'Take all assignments off A A'],
]);

words('codes', [
  ['a set', (d) => addCodeSet(d, ' Phase ', newId), 'Add code set Phase'],
  ['a name of 100 characters', (d) => addCodeSet(d, 'x'.repeat(100), newId), `Add code set ${'x'.repeat(100)}`],
  ['renaming to what is taken', (d) => editCodeSet(d, 'crew', { name: 'area ' }), 'NAME_TAKEN There is a code set Area already. Choose another name. @name'],
  ['deleting a set', (d) => deleteCodeSet(d, 'area'), 'Delete code set Area'],
  ['a value', (d) => addCodeValue(d, 'area', { short: ' West ' }, newId), 'Add West to Area'],
  ['a value without a short name', (d) => addCodeValue(d, 'area', { short: ' ' }, newId), 'NAME_NEEDED A code value needs a short name. @codeSets/area/Area/values'],
  ['a short name of 40 characters', (d) => addCodeValue(d, 'area', { short: 'x'.repeat(40) }, newId), `Add ${'x'.repeat(40)} to Area`],
  [
    'a longer one',
    (d) => addCodeValue(d, 'area', { short: 'x'.repeat(41) }, newId),
    'WRONG_VALUE A short name has at most 40 characters; the name takes more. @codeSets/area/Area/values',
  ],
  [
    'a value that is there',
    (d) => addCodeValue(d, 'area', { short: 'SOUTH ' }, newId),
    'NAME_TAKEN Area has a value South already. Choose another short name. @codeSets/area/Area/values',
  ],
  [
    'a value in one that is gone',
    (d) => addCodeValue(d, 'area', { short: 'x', parentId: 'zz' }, newId),
    'WRONG_VALUE The value that it lies in is not there any more. @codeSets/area/Area/values',
  ],
  ['a value into what lies in it', (d) => editCodeValue(d, 'area', 'area.North', { parentId: 'area.N1' }), 'INTO_ITSELF North cannot lie in itself. @codeSets/area/Area/values'],
  ['changing a value', (d) => editCodeValue(d, 'area', 'area.N1', { short: ' N9 ' }), 'Change N9 of Area'],
  ['changing what is gone', (d) => editCodeValue(d, 'area', 'zz', {}), 'UNKNOWN_CODE_SET That code value is not there any more. @'],
  ['changing in a set that is gone', (d) => editCodeValue(d, 'zz', 'area.N1', {}), 'UNKNOWN_CODE_SET That code value is not there any more. @'],
  ['moving what is gone', (d) => moveCodeValue(d, 'area', 'zz', 1), 'UNKNOWN_CODE_SET That code value is not there any more. @'],
  ['moving in a set that is gone', (d) => moveCodeValue(d, 'zz', 'zz', 1), 'UNKNOWN_CODE_SET That code value is not there any more. @'],
  ['moving up', (d) => moveCodeValue(d, 'area', 'area.South', -1), 'Move South up'],
  ['moving down', (d) => moveCodeValue(d, 'area', 'area.North', 1), 'Move North down'],
  ['deleting one in use', (d) => deleteCodeValue(d, 'area', 'area.N1'), 'IN_USE 1 activity has N1. Choose what they get in its place. @codeSets/area/Area'],
  ['deleting for itself', (d) => deleteCodeValue(d, 'area', 'area.N1', 'area.N1'), 'WRONG_VALUE Choose another value of the same set. @'],
  ['deleting for one of another set', (d) => deleteCodeValue(d, 'area', 'area.N1', 'crew.Red'), 'WRONG_VALUE Choose another value of the same set. @'],
  ['deleting', (d) => deleteCodeValue(d, 'area', 'area.North'), 'Delete North of Area'],
  [
    'a set made like one that is there already',
    (d) => adoptSet(d, 'crew', codeSetOf('q', 'AREA', []), newId),
    'NAME_TAKEN There is another code set Area here. Merge the two first. @codeSets/area/Area',
  ],
  ['a set that is gone made like another', (d) => adoptSet(d, 'zz', codeSetOf('q', 'Q', []), newId), 'UNKNOWN_CODE_SET That code set is not in the project any more. @'],
  ['a set made like another', (d) => adoptSet(d, 'crew', codeSetOf('q', 'Crews', [['Reds']]), newId), 'Make code set Crew like Crews'],
  ['a set made like itself', (d) => adoptSet(d, 'crew', codeSetOf('q', 'Crew', [['Red'], ['Blue']]), newId), 'NOTHING_CHANGED It is so already. @'],
  ['a field that is gone made like another', (d) => adoptField(d, 'zz', ownFieldOf('q', 'Q')), 'UNKNOWN_FIELD That field is not in the project any more. @'],
  [
    'a field made like one of other rows',
    (d) => adoptField(d, 'depth', ownFieldOf('q', 'Depth', { of: 'wbs' })),
    'WRONG_VALUE Depth belongs to activities here, the other to WBS nodes. Change that first. @ownFields/depth/Depth',
  ],
  [
    'a field made like one of another kind',
    (d) => adoptField(d, 'depth', ownFieldOf('q', 'Depth', { kind: 'number' })),
    'WRONG_VALUE Depth is of another kind here. Change its kind first, which says what would be lost. @ownFields/depth/Depth',
  ],
  ['a field made like one that is there already', (d) => adoptField(d, 'depth', ownFieldOf('q', 'WIDTH')), 'NAME_TAKEN There is another field Width here. @ownFields/width/Width'],
  ['a field made like another', (d) => adopt(d, 'depth', { set: null, field: ownFieldOf('q', 'Depths', { unit: 'm' }) }, newId), 'Make field Depth like Depths'],
  ['a field made like itself', (d) => adoptField(d, 'depth', ownFieldOf('q', 'Depth')), 'NOTHING_CHANGED It is so already. @'],
  ['nothing to be like', (d) => adopt(d, 'depth', { set: null, field: null }, newId), 'WRONG_VALUE A code set or a field is wanted. @'],
  ['a set that is given is taken', (d) => adopt(d, 'crew', { set: codeSetOf('q', 'Gang', []), field: null }, newId), 'Make code set Crew like Gang'],
]);

test.each([
  ['area', 'area'],
  ['zz', 'area'],
  ['area', 'zz'],
])('code set %s is not merged into %s', (from, into) => expect(tells(mergeSets(plan(), from, into, newId))).toBe('UNKNOWN_CODE_SET Two code sets of the project are wanted. @'));

words('fields', [
  ['a field', (d) => addOwnField(d, ' Height ', 'number', newId), 'Add field Height'],
  [
    'a name of it in expressions that is taken',
    (d) => editOwnField(d, 'depth', { key: 'WIDTH' }),
    'NAME_TAKEN WIDTH means Width in expressions already. Choose another name. @ownFields/depth/Depth/key',
  ],
  [
    'that of a field that is there for all',
    (d) => editOwnField(d, 'depth', { key: 'duration' }),
    'NAME_TAKEN duration means Duration in expressions already. Choose another name. @ownFields/depth/Depth/key',
  ],
  [
    'a word of expressions',
    (d) => editOwnField(d, 'depth', { key: 'OR' }),
    'NAME_TAKEN OR means a word of expressions in expressions already. Choose another name. @ownFields/depth/Depth/key',
  ],
  [
    'a name in expressions that is none',
    (d) => editOwnField(d, 'depth', { key: '2deep' }),
    'WRONG_VALUE A name in expressions has letters and digits only, a letter first. @ownFields/depth/Depth/key',
  ],
  [
    'with a sign in it',
    (d) => editOwnField(d, 'depth', { key: 'deep-er' }),
    'WRONG_VALUE A name in expressions has letters and digits only, a letter first. @ownFields/depth/Depth/key',
  ],
  ['of 60 characters', (d) => editOwnField(d, 'depth', { key: 'x'.repeat(60) }), 'Change field Depth'],
  ['of 61', (d) => editOwnField(d, 'depth', { key: 'x'.repeat(61) }), 'WRONG_VALUE A name in expressions has letters and digits only, a letter first. @ownFields/depth/Depth/key'],
  [
    'an expression that asks for itself',
    (d) => editOwnField(d, 'size', { expression: 'size + 1' }),
    'BAD_EXPRESSION Fields cannot ask for each other in a ring: Size asks for Size. @ownFields/size/Size/expression',
  ],
  [
    'computed for other rows',
    (d) => editOwnField(d, 'size', { of: 'project' }),
    'WRONG_VALUE Computed fields belong to activities; Size belongs to the project. @ownFields/size/Size/kind',
  ],
  [
    'what is asked for goes to resources',
    (d) => editOwnField(d, 'width', { of: 'resources' }),
    'IN_USE Size is computed from Width, for rows of the plan. Change that first. @ownFields/width/Width',
  ],
  ['what is asked for is deleted', (d) => deleteOwnField(d, 'width'), 'IN_USE Size is computed from Width. Change that first. @ownFields/width/Width'],
  ['what is asked for goes to nodes', (d) => editOwnField(d, 'width', { of: 'wbs' }), 'Change field Width'],
  ['values that would be lost', (d) => editOwnField(d, 'depth', { kind: 'number' }), 'IN_USE A A would lose what it has in Depth. @ownFields/depth/Depth'],
  ['deleting', (d) => deleteOwnField(d, 'depth'), 'Delete field Depth'],
  ['no usual value', (d) => fillStandard(d, 'depth'), 'NOTHING_CHANGED Depth has no value for new activities. @'],
  ['of a row that is gone', (d) => setOwn(d, 'badge', 'zz', 'x'), 'UNKNOWN_RESOURCE That resource is not there any more. @'],
  ['of a row', (d) => setOwn(d, 'badge', 'ana', ' 7 '), 'Set Badge of Ana'],
  ['of an activity, unreadable', (d) => setOwn(d, 'width', 'A', 'wide'), 'WRONG_VALUE A A: wide cannot be read as a number. @activities/A/A A/own:width'],
]);

words('views and bar looks', [
  ['a view', (d) => keepView(d, ' Mine ', usualSettings, newId), 'Add saved view Mine'],
  ['a view without a name', (d) => keepView(d, '', usualSettings, newId), 'NAME_NEEDED A saved view needs a name. @name'],
  ['a view that is gone', (d) => editView(d, 'zz', {}), 'UNKNOWN_VIEW That saved view is not in the project any more. @'],
  ['deleting a view that is gone', (d) => deleteView(d, 'zz'), 'UNKNOWN_VIEW That saved view is not in the project any more. @'],
  ['a look', (d) => addLook(d, ' Plain ', [], newId), 'Add bar look Plain'],
  ['a look without a name', (d) => addLook(d, ' ', [], newId), 'NAME_NEEDED A bar look needs a name. @name'],
  ['a look that is gone', (d) => editLook(d, 'zz', {}), 'UNKNOWN_LOOK That bar look is not in the project any more. @'],
  ['deleting a look that is gone', (d) => deleteLook(d, 'zz'), 'UNKNOWN_LOOK That bar look is not in the project any more. @'],
]);
test('views and bar looks are renamed, described, deleted; names are theirs alone', () => {
  const doc = plan();
  const [mine, other] = [sure(must(doc, keepView(doc, 'Mine', usualSettings, newId))[0]), sure(must(doc, keepView(doc, 'Other', usualSettings, newId))[0])];
  expect([doc.savedViews.get(mine)?.rank, doc.savedViews.get(other)?.rank]).toEqual([0, 1]);
  expect(tells(editView(doc, other, { name: ' mine ' }))).toBe('NAME_TAKEN There is a saved view Mine already. Choose another name. @name');
  const renamed = editView(doc, mine, { name: ' Yours ' });
  expect(tells(renamed)).toBe('Change saved view Yours');
  mustBack(doc, renamed);
  expect(tells(editView(doc, mine, { about: 'all of it' }))).toBe('Change saved view Yours');
  const look = sure(must(doc, addLook(doc, 'Plain', [], newId))[0]);
  must(doc, addLook(doc, 'Bold', [], newId));
  expect(tells(editLook(doc, look, { name: 'BOLD' }))).toBe('NAME_TAKEN There is a bar look Bold already. Choose another name. @name');
  for (const id of ['A', 'B']) doc.activities.set(id, { ...sure(doc.activities.get(id)), lookId: id === 'A' ? look : 'other' });
  const gone = deleteLook(doc, look);
  expect(tells(gone)).toBe('Delete bar look Plain');
  mustBack(doc, gone);
  expect(['A', 'B'].map((id) => doc.activities.get(id)?.lookId)).toEqual([null, 'other']);
  const away = deleteView(doc, mine);
  expect(tells(away)).toBe('Delete saved view Yours');
  mustBack(doc, away);
  expect([...doc.savedViews.keys()]).toEqual([other]);
});

const at = (text: string): number => sure(parseInstant(text));
words('holding back', [
  ['without dates', (d) => holdBack(d, null, 'B', at('2026-04-01T08:00')), 'NOT_COMPUTED The activity has no dates yet. @'],
  ['what is gone', (d) => holdBack(d, viewIn(d), 'zz', at('2026-04-01T08:00')), 'NOT_COMPUTED The activity has no dates yet. @'],
  ['a milestone', (d) => holdBack(d, viewIn(d), 'M', at('2026-04-01T08:00')), 'WRONG_TYPE M M cannot be held back: it has begun, is pinned, or is no task. @activities/M/M M'],
  ['what has begun', (d) => holdBack(d, viewIn(d), 'S', at('2026-04-01T08:00')), 'WRONG_TYPE S S cannot be held back: it has begun, is pinned, or is no task. @activities/S/S S'],
  ['what is pinned', (d) => holdBack(d, viewIn(d), 'P', at('2026-04-01T08:00')), 'WRONG_TYPE P P cannot be held back: it has begun, is pinned, or is no task. @activities/P/P P'],
  // A from 3 to 16 March, B from the 17th.
  ['to where it is', (d) => holdBack(d, viewIn(d), 'B', at('2026-03-17T08:00')), 'NOTHING_CHANGED B B begins later already. @activities/B/B B'],
  ['by two days and an hour', (d) => holdBack(d, viewIn(d), 'B', at('2026-03-19T09:00')), 'Hold B B back by 2d 1h'],
  ['further', (d) => holdBack(d, viewIn(d), 'H', at('2026-03-05T08:00')), 'Hold H H back by 1d'],
  ['delays that are there', (d) => takeDelays(d, new Map([['H', 480]])), 'NOTHING_CHANGED These delays are there already. @'],
  [
    'delays of two',
    (d) =>
      takeDelays(
        d,
        new Map([
          ['H', 960],
          ['B', 480],
        ]),
      ),
    'Level: hold 2 activities back',
  ],
  [
    'delays of one, and one away',
    (d) =>
      takeDelays(
        d,
        new Map([
          ['H', null],
          ['B', 480],
        ]),
      ),
    'Level: hold 1 activity back',
  ],
  ['delays of what is gone', (d) => takeDelays(d, new Map([['zz', 480]])), 'NOTHING_CHANGED These delays are there already. @'],
  ['none any more', (d) => clearDelays(d), 'Clear the delays of levelling'],
  ['none of what has none', (d) => clearDelays(d, ['B', 'zz']), 'NOTHING_CHANGED These delays are there already. @'],
]);
test('who is held back twice is held back by both', () => {
  const doc = plan();
  mustBack(doc, holdBack(doc, viewIn(doc), 'H', at('2026-03-05T08:00')));
  expect(doc.activities.get('H')?.levellingDelay).toBe(960);
  mustBack(doc, takeDelays(doc, new Map([['H', 0]])));
  expect(doc.activities.get('H')?.levellingDelay).toBe(0);
  mustBack(doc, clearDelays(doc));
  expect(doc.activities.get('H')?.levellingDelay).toBeNull();
});

test('the lists of roles that come along name each role once, in the order of the alphabet', () => {
  for (const { trade, roles } of roleLists) expect([trade, [...new Set(roles)].sort(), roles.every((r) => r !== '')]).toEqual([trade, [...roles], true]);
  const doc = peopledPlan({ activities: [] }, {});
  for (const list of roleLists) must(doc, addRoles(doc, list, newId));
  // Riggers are in both.
  expect([doc.roles.size, [...doc.roles.values()].map((r) => r.rank)]).toEqual([28, Array.from({ length: 28 }, (_, i) => i)]);
});
