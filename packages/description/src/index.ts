import 'reflect-metadata';

export { describe } from './describe';
export { documentOf, type Document, type Operation } from './document';
export { pageOf } from './page';
