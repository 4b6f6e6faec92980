/** The colours of lists and calendars, by number, as they are called. */
export const HUE_NAMES = ['blue', 'mauve', 'green', 'copper', 'olive', 'indigo', 'teal', 'rose', 'slate', 'violet'] as const;
export const HUES = HUE_NAMES.map((_, hue) => hue);
