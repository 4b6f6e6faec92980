/** A running Corvun, as far as it is asked. */
export interface Here {
  api: <T>(path: string, method?: string, body?: object) => Promise<T>;
}

/** Makes a task from a line, and says what the line does not. @returns its id */
export async function make(here: Here, line: string, change: object = {}): Promise<string> {
  const id = (await here.api<{ ids: string[] }>('/tasks', 'POST', { lines: [line] })).ids[0] ?? '';
  await here.api(`/tasks/${id}`, 'PATCH', change);
  return id;
}
