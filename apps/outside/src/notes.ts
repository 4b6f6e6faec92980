import express, { Router } from 'express';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { workday } from './clock';
import { escape, layout } from './layout';

const SEED: Record<string, (day: typeof workday) => string> = {
  'Boardwalk.md': (day) =>
    `# Boardwalk\n\nIdeas and loose ends, written on the train.\n\n- [ ] Photograph section C before the work begins #site {due ${day(2)}}\n- [ ] Find the old plans\n  - [ ] ask the county archive\n  - [ ] look in the blue cabinet\n- [x] Measure the posts\n\n\`\`\`\n- [ ] an example, not a task\n\`\`\`\n`,
  'Meetings/Crew, July.md': () =>
    '# Crew, July\n\nRain all week.\n\n- [ ] Write to the school about nets #write {high}\n- [ ] Thank Luk for the ferry\n',
  'Private/Garden.md': () => '# Garden\n\n- [ ] Prune the plum tree\n',
};

/** A folder of Markdown notes, and a page on which they are edited as in any editor. */
export function notes(folder: string): Router {
  const root = join(folder, 'notes');
  if (!existsSync(root))
    for (const [path, text] of Object.entries(SEED)) {
      mkdirSync(join(root, path, '..'), { recursive: true });
      writeFileSync(join(root, path), text(workday));
    }
  const files = () =>
    (readdirSync(root, { recursive: true }) as string[])
      .filter((path) => path.endsWith('.md') && !/(?:^|\/)\./.test(path))
      .sort();
  const router = Router();
  router.get(
    '/state.json',
    (_request, response) =>
      void response.json({
        root,
        files: Object.fromEntries(files().map((path) => [path, readFileSync(join(root, path), 'utf8')])),
      }),
  );
  router.get('/', (_request, response) => {
    const forms = files().map(
      (path) =>
        `<h2>${escape(path)}</h2><form method="post" action="/notes"><input type="hidden" name="path" value="${escape(path)}"><label>Text of ${escape(path)}<textarea name="text">${escape(readFileSync(join(root, path), 'utf8'))}</textarea></label><button>Save</button></form>`,
    );
    response.type('html').send(layout('Notes folder', `<p>The folder is <code>${escape(root)}</code>.</p>${forms.join('')}`));
  });
  router.use(express.urlencoded({ extended: false, limit: '5mb' }));
  router.post('/', (request, response) => {
    const { path = '', text = '' } = request.body as Record<string, string>;
    const known = files().find((one) => one === relative(root, join(root, path)));
    if (!known) return void response.status(404).send('no such note');
    writeFileSync(join(root, known), text.replace(/\r\n/g, '\n'));
    response.redirect(303, '/notes');
  });
  return router;
}
