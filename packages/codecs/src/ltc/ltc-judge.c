/* Reads and writes linear time code by a library that is not ours, as the other side of a test.
   judge d SAMPLES_PER_FRAME FILE         32-bit floats in, one line a word out
   judge e RATE FPS STANDARD FRAMES FILE  8-bit samples out, from 00:59:58:00 on; 0 is 24, 1 is 25, 2 is 30 drop-frame */
#include <ltc.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static int decode(int samples, const char *name) {
  FILE *file = fopen(name, "rb");
  LTCDecoder *decoder = ltc_decoder_create(samples, 64);
  LTCFrameExt word;
  float block[1024];
  size_t count;
  long at = 0;
  while ((count = fread(block, 4, 1024, file)) > 0) {
    ltc_decoder_write_float(decoder, block, count, at);
    at += count;
    while (ltc_decoder_read(decoder, &word)) {
      SMPTETimecode time;
      ltc_frame_to_time(&time, &word.ltc, 0);
      printf("%02d:%02d:%02d%c%02d %08lx %s\n", time.hours, time.mins, time.secs, word.ltc.dfbit ? ';' : ':',
             time.frame, ltc_frame_get_user_bits(&word.ltc), word.reverse ? "backwards" : "forwards");
    }
  }
  return 0;
}

static int encode(double rate, double fps, int standard, int frames, const char *name) {
  static const enum LTC_TV_STANDARD standards[] = {LTC_TV_FILM_24, LTC_TV_625_50, LTC_TV_525_60};
  LTCEncoder *encoder = ltc_encoder_create(rate, fps, standards[standard], 0);
  SMPTETimecode time;
  FILE *file = fopen(name, "wb");
  memset(&time, 0, sizeof time);
  strcpy(time.timezone, "+0000");
  time.mins = 59;
  time.secs = 58;
  ltc_encoder_set_timecode(encoder, &time);
  for (int frame = 0; frame < frames; frame += 1) {
    ltcsnd_sample_t *samples;
    ltc_encoder_encode_frame(encoder);
    int length = ltc_encoder_get_bufferptr(encoder, &samples, 1);
    fwrite(samples, 1, length, file);
    ltc_encoder_inc_timecode(encoder);
  }
  fclose(file);
  return 0;
}

int main(int count, char **args) {
  if (count == 4 && args[1][0] == 'd') return decode(atoi(args[2]), args[3]);
  if (count == 7) return encode(atof(args[2]), atof(args[3]), atoi(args[4]), atoi(args[5]), args[6]);
  return 2;
}
