/** Exchanges paper and night; the choice is kept in a cookie, so that the first paint is right. */
export function exchangeTheme(): void {
  const root = document.documentElement;
  const next = root.dataset.theme === 'dark' ? 'light' : 'dark';
  root.dataset.theme = next;
  // biome-ignore lint/suspicious/noDocumentCookie: the cookie store is not in every browser yet
  document.cookie = `theme=${next}; path=/; max-age=31536000; samesite=lax`;
}
