'use client';
export { PageProblem as default } from '@/ui/frame/PageProblem';
