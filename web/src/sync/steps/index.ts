export { type Act, boardAt, type Gesture, newGesture, withoutChange } from './act.ts';
export { nameOfWindow, StepStore } from './step-store.ts';
export { Steps, type Turned } from './steps.ts';
