import { group } from './group';

group(2);
