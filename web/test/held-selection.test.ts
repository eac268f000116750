import { heldSelection, type HeldSelection } from '../src/project/held-selection';

const a = ['a'];
const b = ['b'];
const c = ['c'];

/** What is shown after each drawing: what is selected, edits so far, whether dates come soon. */
function shown(...drawings: [string[], number, boolean][]): string[] {
  let state: HeldSelection<string[]> = { now: a, edits: 0, moved: false, shown: a };
  return drawings.map(([selected, edits, soon]) => (state = heldSelection(state, selected, edits, soon)).shown[0]!);
}

describe('the selection of what waits for dates', () => {
  it.each<[string, [string[], number, boolean][], string[]]>([
    [
      'an edit that moves it: the row before, until the dates are here',
      [
        [b, 1, true],
        [b, 1, true],
        [b, 1, false],
      ],
      ['a', 'a', 'b'],
    ],
    [
      'another edit of the row that was moved to: still held',
      [
        [b, 1, true],
        [b, 2, true],
        [b, 2, false],
      ],
      ['a', 'a', 'b'],
    ],
    [
      'an edit, and somebody goes to another row while its dates are computed: that row at once',
      [
        [a, 1, true],
        [b, 1, true],
      ],
      ['a', 'b'],
    ],
    [
      'moved by an edit, and gone on from there by hand',
      [
        [b, 1, true],
        [c, 1, true],
      ],
      ['a', 'c'],
    ],
    [
      'two edits that move it',
      [
        [b, 1, true],
        [c, 2, true],
        [c, 2, false],
      ],
      ['a', 'a', 'c'],
    ],
    ['an edit that moves it, where dates take long', [[b, 1, false]], ['b']],
    ['only moved', [[b, 0, false]], ['b']],
    [
      'drawn twice with the same',
      [
        [b, 1, true],
        [b, 1, true],
      ],
      ['a', 'a'],
    ],
  ])('%s', (_, drawings, expected) => {
    expect(shown(...drawings)).toEqual(expected);
  });
});
