// Before the first paint: the theme that was chosen, else the system's.
try {
  const chosen = localStorage.getItem('vinetap:mode');
  const isDark = chosen === 'dark' || (chosen !== 'light' && matchMedia('(prefers-color-scheme: dark)').matches);
  document.documentElement.dataset.mode = isDark ? 'dark' : 'light';
} catch {
  // Without storage the light theme stands.
}
