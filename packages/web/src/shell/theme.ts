export type Theme = 'night' | 'chart';

export const readTheme = (): Theme => (localStorage.getItem('deep-patch-theme') === 'chart' ? 'chart' : 'night');

export function setTheme(theme: Theme): void {
  localStorage.setItem('deep-patch-theme', theme);
  document.documentElement.dataset['theme'] = theme;
}
