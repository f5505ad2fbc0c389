import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { type ApplicationConfig, provideZonelessChangeDetection } from '@angular/core';
import { asOwnPage, signedIn } from './session/signed-in';
import { provideRouter, type Routes, withComponentInputBinding } from '@angular/router';

const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'jobs' },
  {
    path: 'jobs',
    canActivate: [signedIn],
    title: 'Jobs · Plain Relief',
    loadComponent: () => import('./jobs/jobs-page').then((m) => m.JobsPage),
  },
  {
    path: 'signs/:id',
    canActivate: [signedIn],
    title: 'Bench · Plain Relief',
    loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage),
  },
  {
    path: 'jobs/:id/proofs',
    canActivate: [signedIn],
    title: 'Proofs · Plain Relief',
    loadComponent: () => import('./proofs/proofs-page').then((m) => m.ProofsPage),
  },
  {
    path: 'jobs/:id/runs',
    canActivate: [signedIn],
    title: 'Run · Plain Relief',
    loadComponent: () => import('./runs/runs-page').then((m) => m.RunsPage),
  },
  {
    path: 'jobs/:id/places',
    canActivate: [signedIn],
    title: 'In place · Plain Relief',
    loadComponent: () => import('./in-place/places-page').then((m) => m.PlacesPage),
  },
  {
    path: 'outbox',
    canActivate: [signedIn],
    title: 'Outbox · Plain Relief',
    loadComponent: () => import('./proofs/outbox-page').then((m) => m.OutboxPage),
  },
  {
    path: 'bin',
    canActivate: [signedIn],
    title: 'Bin · Plain Relief',
    loadComponent: () => import('./jobs/bin-page').then((m) => m.BinPage),
  },
  {
    path: 'turnaround',
    canActivate: [signedIn],
    title: 'Turnaround · Plain Relief',
    loadComponent: () => import('./turnaround/turnaround-page').then((m) => m.TurnaroundPage),
  },
  {
    path: 'people',
    canActivate: [signedIn],
    title: 'People · Plain Relief',
    loadComponent: () => import('./people/people-page').then((m) => m.PeoplePage),
  },
  {
    path: 'sign-in',
    title: 'Sign in · Plain Relief',
    loadComponent: () => import('./people/sign-in-page').then((m) => m.SignInPage),
  },
  {
    path: 'proof/:token',
    title: 'Proof',
    loadComponent: () => import('./customer/customer-page').then((m) => m.CustomerPage),
  },
  {
    path: 'shop',
    canActivate: [signedIn],
    title: 'Shop · Plain Relief',
    loadComponent: () => import('./shop/shop-page').then((m) => m.ShopPage),
  },
  {
    path: '**',
    title: 'Not here · Plain Relief',
    loadComponent: () => import('./shell/nowhere-page').then((m) => m.NowherePage),
  },
];

export const appConfig: ApplicationConfig = {
  providers: [
    provideZonelessChangeDetection(),
    provideRouter(routes, withComponentInputBinding()),
    provideHttpClient(withFetch(), withInterceptors([asOwnPage])),
  ],
};
