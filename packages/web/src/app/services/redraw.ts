import { ApplicationRef, inject } from '@angular/core';

/**
 * A function that has what changed drawn before anything else happens, instead of when the browser comes to it: the fields of
 * one document then stand for what they were given last, and a second change right behind the first goes on from it.
 */
export const redraws = (): (() => void) => {
  const app = inject(ApplicationRef);
  let isAsked = false;
  return () => {
    if (isAsked) return;
    isAsked = true;
    // Not in the midst of it: whoever changed something may go on to say what is chosen now.
    queueMicrotask(() => {
      isAsked = false;
      if (!app.destroyed) app.tick();
    });
  };
};
