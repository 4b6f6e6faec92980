import { group } from './group';

group(7);
