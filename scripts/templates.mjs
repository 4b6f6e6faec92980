import { template } from './template.mjs';

/** For Playwright: tells the tests where both demos are, alone and with its outside world. */
export default async function useTemplates() {
  [process.env.CORVUN_TEMPLATE, process.env.CORVUN_TEMPLATE_CONNECTED] = await Promise.all([
    template('alone'),
    template('connected'),
  ]);
}
