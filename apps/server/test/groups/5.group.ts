import { group } from './group';

group(5);
