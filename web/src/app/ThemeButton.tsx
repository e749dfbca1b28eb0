import { useState } from 'react';
import { remember } from '../client/remembered.ts';

/** Switches between light and dark, and keeps the choice. */
export function ThemeButton() {
  const [theme, setTheme] = useState(document.documentElement.dataset.bsTheme ?? 'light');
  const other = theme === 'dark' ? 'light' : 'dark';
  const change = () => {
    document.documentElement.dataset.bsTheme = other;
    remember('theme', other);
    setTheme(other);
  };
  return (
    <button type="button" onClick={change}>
      {other === 'dark' ? 'Dark' : 'Light'}
    </button>
  );
}
