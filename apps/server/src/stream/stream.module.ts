import { Controller, Get, Module, Sse } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { Observable } from 'rxjs';
import { Open, Owner } from '../accounts/auth.guard';
import type { User } from '../accounts/user.entity';
import { StreamService } from './stream.service';

@ApiTags('stream')
@Controller('api')
class StreamController {
  constructor(private readonly stream: StreamService) {}

  /** What changed, as server-sent events: `change` with a list of {kind, ids}, and `beat`. */
  @Sse('stream')
  open(@Owner() user: User): Observable<{ type: string; data: object }> {
    return this.stream.of(user.id);
  }

  @Open()
  @Get('health')
  health(): { ok: true } {
    return { ok: true };
  }
}

@Module({ controllers: [StreamController] })
export class StreamModule {}
