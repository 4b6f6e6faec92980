import { group } from './group';

group(1);
