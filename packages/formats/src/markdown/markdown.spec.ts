import fc from 'fast-check';
import { NoteError, changeNote, noteText, tasksInNote } from './noteTasks';
import { changeTaskLine, readTaskLine } from './taskNotation';

const NOTE = [
  '# Crew meeting',
  '',
  '- [ ] Order larch boards #site {due 2026-08-14 | high} <!--corvun:k3f9x2ab-->',
  '  - [x] ask Ines for the profile',
  '  - plain words',
  '    * [ ] check the lorry {on 2026-08-05}',
  '1. [ ] Count the orchids',
  '',
  '```',
  '- [ ] not a task: code',
  '```',
  '<div>',
  '- [ ] nor this: HTML',
  '</div>',
  '',
  '## Later',
  '> - [ ] Paint the hut {some words}',
  '',
].join('\r\n');

describe('tasks in notes', () => {
  it('finds task-list items with parent and heading, and none in code or HTML', () => {
    expect(tasksInNote(NOTE).map(({ title, line, parent, heading, done }) => [title, line, parent, heading, done])).toEqual([
      ['Order larch boards', 2, null, 'Crew meeting', false],
      ['ask Ines for the profile', 3, 2, 'Crew meeting', true],
      ['check the lorry', 5, 2, 'Crew meeting', false],
      ['Count the orchids', 6, null, 'Crew meeting', false],
      ['Paint the hut {some words}', 16, null, 'Later', false],
    ]);
  });

  it('reads what stands in the braces, and takes other braces for text', () => {
    const read = readTaskLine(
      '- [x] Water the plugs #site #call {by 2026-08-20 | on 2026-08-12 | low | every FREQ=WEEKLY;BYDAY=MO,TU | done 2026-08-12}',
    );
    expect(read).toEqual({
      title: 'Water the plugs',
      done: true,
      tags: ['site', 'call'],
      due: '2026-08-20',
      fixed: false,
      day: '2026-08-12',
      doneOn: '2026-08-12',
      priority: 'low',
      repeat: 'FREQ=WEEKLY;BYDAY=MO,TU',
      id: null,
    });
    expect(readTaskLine('- [ ] Fill in {due 31 June}')?.title).toBe('Fill in {due 31 June}');
    expect(readTaskLine('- [] no')).toBeNull();
    expect(readTaskLine('- [ ] C# course #1')?.tags).toEqual([]);
  });

  it('changes only what changed: the rest of the file stays byte for byte', () => {
    const changed = changeNote(
      NOTE,
      new Map([
        [2, { done: true, doneOn: '2026-08-03' }],
        [6, { id: 'abcd1234' }],
      ]),
    );
    const before = NOTE.split('\r\n');
    const after = changed.split('\r\n');
    expect(after[2]).toBe('- [x] Order larch boards #site {due 2026-08-14 | high | done 2026-08-03} <!--corvun:k3f9x2ab-->');
    expect(after[6]).toBe('1. [ ] Count the orchids <!--corvun:abcd1234-->');
    expect(after.filter((line, at) => line !== before[at])).toHaveLength(2);
  });

  it('a change and its opposite give the same bytes again', () => {
    for (const line of [NOTE.split('\r\n')[2] ?? '', '*   [ ]  odd   spaces  #tag  ', '\t- [X] done already']) {
      const done = readTaskLine(line)?.done ?? false;
      const there = changeTaskLine(line, { done: !done });
      expect(there).not.toBe(line);
      expect(changeTaskLine(there, { done })).toBe(line.replace('[X]', '[x]'));
    }
    expect(changeTaskLine('- [ ] Old #site', { title: 'New' })).toBe('- [ ] New #site');
  });

  it('without a change any text comes back as it was', () => {
    const piece = fc.constantFrom(
      '- [ ] a',
      '\r\n',
      '\n',
      '\r',
      '  ',
      'ü',
      '{due 2026-08-01}',
      '<!--corvun:abcd-->',
      '```',
      '\uFEFF',
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const text = pieces.join('');
        expect(changeNote(text, new Map())).toBe(text);
        const same = new Map(tasksInNote(text).map((task) => [task.line, { title: task.title, done: task.done }]));
        expect(changeNote(text, same)).toBe(text);
      }),
    );
  });

  it('refuses what is not UTF-8 or far too large', () => {
    expect(() => noteText(Buffer.from([0x2d, 0xff, 0x41]))).toThrow(NoteError);
    expect(() => noteText(Buffer.alloc(5 * 1024 * 1024, 0x61))).toThrow(/larger than 4 MB/);
    expect(noteText(Buffer.from('\uFEFF- [ ] a'))).toBe('\uFEFF- [ ] a');
  });

  it('puts a round that is done above its line, once, with the line ending of the file, and takes it out', () => {
    const note = '# Beds\r\n- [ ] Water #beds {on 2026-08-03 | every FREQ=DAILY} <!--corvun:k3f9x2ab-->';
    const round = { doneOn: '2026-08-03', day: '2026-08-03', due: null };
    const write = (text: string, line: number, stands: boolean) =>
      changeNote(text, new Map([[line, { day: '2026-08-04', rounds: [{ round, stands }] }]]));
    const after = write(note, 1, true);
    expect(after.split('\r\n')).toEqual([
      '# Beds',
      '- [x] Water #beds {on 2026-08-03 | done 2026-08-03}',
      '- [ ] Water #beds {on 2026-08-04 | every FREQ=DAILY} <!--corvun:k3f9x2ab-->',
    ]);
    expect(write(after, 2, true)).toBe(after);
    expect(write(after, 2, false)).toBe(note.replace('on 2026-08-03', 'on 2026-08-04'));
  });
});
