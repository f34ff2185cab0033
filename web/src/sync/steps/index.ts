export { type Act, boardAt, type Gesture, newGesture } from './act.ts';
export { nameOfWindow, StepStore } from './step-store.ts';
export { Steps, type Turned } from './steps.ts';
