/** The palette finds what a planner types: which command comes first for which words. */
import '../src/app/rooms';
import { found } from '../src/commands/find';
import { titlesFor } from './find-commands';

test.each([
  // What is begun.
  ['keep baseline', 'Keep a baseline'],
  ['save a baseline', 'Keep a baseline'],
  ['set baseline', 'Keep a baseline'],
  ['baselines', 'Keep a baseline'],
  ['new project', 'New project'],
  ['import', 'Import a project file'],
  ['add milestone', 'Add finish milestone'],
  ['new start milestone', 'Add start milestone'],
  ['buffer', 'Add margin'],
  ['insert task', 'Add activity'],
  ['insert wbs', 'Add WBS node'],
  ['add expense', 'Expenses and income'],
  ['new calendar', 'Calendars'],
  ['new resource', 'Resources, roles and crews'],
  ['new code set', 'Code sets'],
  ['custom field', 'Fields of your own'],
  ['cost code', 'Accounts and currencies'],
  ['level resources', 'Level or smooth'],
  ['link fs', 'Link the selected with a type and a lag'],
  // Where one goes.
  ['plan', 'Go to Plan'],
  ['projects', 'Go to Projects'],
  ['print', 'Go to Report'],
  ['status update', 'Go to Update'],
  ['percent complete', 'Go to Update'],
  ['compare baselines', 'Go to Compare'],
  ['copy project', 'Go to Projects'],
  ['what-if', 'Go to Projects'],
  ['people on time', 'People on time'],
  ['today', 'Go to the data date'],
  // How it is seen and computed.
  ['choose columns', 'Columns'],
  ['labels', 'Texts at the bars'],
  ['dark mode', 'Dark theme'],
  ['hide links', 'All links'],
  ['close the inspector', 'Inspector'],
  ['follow the logic', 'Connected activities only'],
  ['save view', 'Saved views'],
  ['retained logic', 'How it is computed'],
  ['critical threshold', 'How it is computed'],
  ['required finish', 'Project settings'],
  ['recalculate', 'Pause recomputing'],
  // What is done to rows.
  ['indent', 'One level down'],
  ['renumber', 'Number the activities anew'],
  ['remove rows', 'Delete rows'],
  ['cut', 'Cut'],
])('%s: %s', (typed, title) => expect(titlesFor(typed)[0]).toBe(title));

const things = ['Add a row', 'Delete rows', 'Rows in lanes', 'Download', 'Van to load', 'Roof', 'Go to Notes', 'Notes'].map((title) => ({
  title,
  rest: title === 'Download' ? 'load save' : '',
}));
const titles = (query: string): string[] => found(query, things, (x) => x).map((x) => x.title);

test.each<[string, string, string[]]>([
  ['nothing: all, in order', '', things.map((x) => x.title)],
  ['the s of many is taken off, what has it comes first', 'rows', ['Rows in lanes', 'Delete rows', 'Add a row']],
  ['what means the same', 'new row', ['Add a row']],
  ['fillers count nothing', 'add the row', ['Add a row']],
  ['but where they are all there is', 'a', ['Add a row']],
  ['every word counts', 'add lane', []],
  ['a word is found at its beginning', 'lane', ['Rows in lanes']],
  ['and within, where nothing else is', 'wnload', ['Download']],
  ['beside the title', 'store', ['Download']],
  ['the title counts more than what is beside it', 'load', ['Van to load', 'Download']],
  ['going there is called as the place is', 'notes', ['Go to Notes', 'Notes']],
  ['signs alone find nothing', '??', []],
])('%s', (_, query, expected) => expect(titles(query)).toEqual(expected));
