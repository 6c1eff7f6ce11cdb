import { provideHttpClient, withFetch } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { providePrimeNG } from 'primeng/config';
import { fetchAhead } from './app/ahead';
import { App } from './app/app';
import { routes } from './app/app.routes';
import { knowPerson } from './app/services/person';
import { FilmPreset } from './app/theme';

const start = () =>
  bootstrapApplication(App, {
    providers: [
      provideHttpClient(withFetch()),
      provideRouter(routes, withComponentInputBinding()),
      providePrimeNG({
        // The styles of the components carry the nonce of the answer that brought this page: the policy allows no others.
        csp: { nonce: document.querySelector('twin-root')?.getAttribute('ngCspNonce') ?? '' },
        theme: {
          preset: FilmPreset,
          options: { darkModeSelector: 'system', cssLayer: { name: 'primeng', order: 'base, primeng, twin' } },
        },
      }),
    ],
  });

/** The fonts that masters may use come after what the first look needs. */
function offerFonts(): void {
  const link = document.createElement('link');
  link.rel = 'stylesheet';
  link.href = 'fonts.css';
  document.head.append(link);
}

knowPerson()
  .then(start)
  .then(offerFonts)
  .then(fetchAhead)
  .catch((error: unknown) => console.error(error));
