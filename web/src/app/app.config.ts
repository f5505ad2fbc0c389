import { provideHttpClient, withFetch } from '@angular/common/http';
import { type ApplicationConfig, provideZonelessChangeDetection } from '@angular/core';
import { provideRouter, type Routes, withComponentInputBinding } from '@angular/router';

const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'jobs' },
  { path: 'jobs', title: 'Jobs · Plain Relief', loadComponent: () => import('./jobs/jobs-page').then((m) => m.JobsPage) },
  {
    path: 'signs/:id',
    title: 'Bench · Plain Relief',
    loadComponent: () => import('./bench/bench-page').then((m) => m.BenchPage),
  },
  {
    path: 'jobs/:id/proofs',
    title: 'Proofs · Plain Relief',
    loadComponent: () => import('./proofs/proofs-page').then((m) => m.ProofsPage),
  },
  {
    path: 'outbox',
    title: 'Outbox · Plain Relief',
    loadComponent: () => import('./proofs/outbox-page').then((m) => m.OutboxPage),
  },
  {
    path: 'proof/:token',
    title: 'Proof',
    loadComponent: () => import('./customer/customer-page').then((m) => m.CustomerPage),
  },
  { path: 'shop', title: 'Shop · Plain Relief', loadComponent: () => import('./shop/shop-page').then((m) => m.ShopPage) },
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
    provideHttpClient(withFetch()),
  ],
};
