import type { HttpErrorResponse, HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { type CanActivateFn, Router } from '@angular/router';
import { tap } from 'rxjs';
import { SessionService } from './session.service';

/** Tells the server that a request comes from a page of the application: others cannot. */
const OWN_PAGE = { 'x-plain-relief': 'page' };

/** Opens a place to those who are signed in; others are asked to, and come back to it. */
export const signedIn: CanActivateFn = async (_, { url }) => {
  const [session, router] = [inject(SessionService), inject(Router)];
  if (session.person) return true;
  const door = await session.look().catch(() => undefined);
  // While the server is away the place itself says so.
  return door ? router.createUrlTree(['/sign-in'], { queryParams: { then: url } }) : true;
};

/** Marks requests as the page's own, and goes to the door when a session has ended. What was typed is kept by the bench. */
export const asOwnPage: HttpInterceptorFn = (request, next) => {
  const [session, router] = [inject(SessionService), inject(Router)];
  return next(request.clone({ setHeaders: OWN_PAGE })).pipe(
    tap({
      error: ({ status, error }: HttpErrorResponse) => {
        if (status !== 401 || (error as { code?: string } | null)?.code !== 'NOT_SIGNED_IN') return;
        session.ended();
        if (!router.url.startsWith('/sign-in')) void router.navigate(['/sign-in'], { queryParams: { then: router.url } });
      },
    }),
  );
};
