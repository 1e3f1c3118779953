import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { store } from '../state/store';
import { ticked } from '../state/clock';
import { applyTheme } from '../state/shell';
import { keepSecret } from '../data/secret';
import { Boot } from './boot';
import './styles.css';

keepSecret();
setInterval(() => store.dispatch(ticked(Date.now())), 1000);
document.addEventListener('visibilitychange', () => store.dispatch(ticked(Date.now())));
let theme = store.getState().shell.theme;
store.subscribe(() => {
  const chosen = store.getState().shell.theme;
  if (chosen !== theme) applyTheme((theme = chosen));
});
matchMedia('(prefers-color-scheme: dark)').addEventListener('change', () => applyTheme(theme));

if (import.meta.env.PROD && 'serviceWorker' in navigator) void navigator.serviceWorker.register('/sw.js');
void navigator.storage?.persist?.();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <Provider store={store}>
      <Boot />
    </Provider>
  </StrictMode>,
);
