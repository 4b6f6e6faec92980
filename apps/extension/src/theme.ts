/** Light or dark, as the system says. */
export function followTheme(): void {
  const dark = matchMedia('(prefers-color-scheme: dark)');
  const put = () => {
    document.documentElement.dataset['theme'] = dark.matches ? 'dark' : 'light';
  };
  put();
  dark.addEventListener('change', put);
}
