import type { RunningAsked } from '@rosemary/api';
import { defineStore } from 'pinia';
import type { ForRunning } from '../platform/http.ts';
import { makeAsking } from './asking.ts';

/** A change that would reach those who are taking a quiz: it waits until it is said whom it is for. */
export const useRunning = defineStore('running', () => makeAsking<RunningAsked, ForRunning | null>(null));
