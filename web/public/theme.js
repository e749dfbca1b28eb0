// Sets the theme before anything is drawn, so that a dark page never flashes light.
const kept = localStorage.getItem('theme');
const dark = kept ? kept === 'dark' : matchMedia('(prefers-color-scheme: dark)').matches;
document.documentElement.dataset.bsTheme = dark ? 'dark' : 'light';
