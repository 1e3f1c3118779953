import type { Plugin } from 'vite';

export declare const clientPageScript: () => Plugin;
