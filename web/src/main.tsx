import '@fontsource-variable/public-sans/index.css';
import '@fontsource/zilla-slab/600.css';
import './style/bootstrap.scss';
import './style/tokens.css';
import './style/base.css';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { RouterProvider } from 'react-router/dom';
import { askFirst } from './app/askFirst.ts';
import { router } from './app/router.tsx';
import { store } from './client/store.ts';

askFirst(window.location);

const root = document.getElementById('root');
if (!root) throw new Error('The page has no root.');
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
