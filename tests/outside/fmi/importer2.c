/* An importer of co-simulation units, written from the text of FMI 2.0.4 (chapters 2.1, 4.2): loads a library, calls it as figure 4.3 (state machine) allows, prints what comes out. */
#include <dlfcn.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
typedef void *component;
typedef struct { void (*logger)(void *, const char *, int, const char *, const char *, ...); void *(*allocate)(size_t, size_t); void (*release)(void *); void (*finished)(void *, int); void *environment; } callbacks;
static void logged(void *e, const char *name, int status, const char *category, const char *message, ...) {
  va_list a;
  (void)e;
  fprintf(stderr, "%s %d %s ", name, status, category);
  va_start(a, message);
  vfprintf(stderr, message, a);
  va_end(a);
  fputc('\n', stderr);
}
static const char *needed[] = {"fmi2GetTypesPlatform", "fmi2GetVersion", "fmi2SetDebugLogging", "fmi2Instantiate", "fmi2FreeInstance", "fmi2SetupExperiment", "fmi2EnterInitializationMode", "fmi2ExitInitializationMode", "fmi2Terminate", "fmi2Reset", "fmi2GetReal", "fmi2GetInteger", "fmi2GetBoolean", "fmi2GetString", "fmi2SetReal", "fmi2SetInteger", "fmi2SetBoolean", "fmi2SetString", "fmi2GetFMUstate", "fmi2SetFMUstate", "fmi2FreeFMUstate", "fmi2SerializedFMUstateSize", "fmi2SerializeFMUstate", "fmi2DeSerializeFMUstate", "fmi2GetDirectionalDerivative", "fmi2SetRealInputDerivatives", "fmi2GetRealOutputDerivatives", "fmi2DoStep", "fmi2CancelStep", "fmi2GetStatus", "fmi2GetRealStatus", "fmi2GetIntegerStatus", "fmi2GetBooleanStatus", "fmi2GetStringStatus"};
static void *library;
static void *function(const char *name) {
  void *found = dlsym(library, name);
  if (!found) { fprintf(stderr, "no %s\n", name); exit(2); }
  return found;
}
static int set(component c, char kind, unsigned r, double v) {
  int whole = (int)v;
  if (kind == 'r') return ((int (*)(component, const unsigned *, size_t, const double *))function("fmi2SetReal"))(c, &r, 1, &v);
  return ((int (*)(component, const unsigned *, size_t, const int *))function(kind == 'i' ? "fmi2SetInteger" : "fmi2SetBoolean"))(c, &r, 1, &whole);
}
static double get(component c, char kind, unsigned r) {
  double v = 0;
  int whole = 0;
  int status = kind == 'r' ? ((int (*)(component, const unsigned *, size_t, double *))function("fmi2GetReal"))(c, &r, 1, &v)
                           : ((int (*)(component, const unsigned *, size_t, int *))function(kind == 'i' ? "fmi2GetInteger" : "fmi2GetBoolean"))(c, &r, 1, &whole);
  if (status != 0) { fprintf(stderr, "get %c %u: %d\n", kind, r, status); exit(3); }
  return kind == 'r' ? v : whole;
}
/* arguments: library, guid, number of steps, step (s); then c<kind><reference>=<value> before the start, k<step><kind><reference>=<value>, g<kind><reference>; s<step>: keep the state there, go on, come back once */
int main(int count, char **words) {
  static const callbacks own = {logged, calloc, free, 0, 0};
  library = dlopen(words[1], RTLD_NOW | RTLD_LOCAL);
  if (!library) { fprintf(stderr, "%s\n", dlerror()); return 2; }
  for (size_t i = 0; i < sizeof needed / sizeof *needed; i++) function(needed[i]);
  if (strcmp(((const char *(*)(void))function("fmi2GetVersion"))(), "2.0") != 0) return 2;
  component c = ((component(*)(const char *, int, const char *, const char *, const callbacks *, int, int))function("fmi2Instantiate"))("one", 1, words[2], "file:///tmp", &own, 0, 0);
  if (!c) return 4;
  const long steps = strtol(words[3], 0, 10);
  const double step = strtod(words[4], 0);
  char kind;
  unsigned r;
  long at, back = -1;
  double v;
  if (((int (*)(component, int, double, double, int, double))function("fmi2SetupExperiment"))(c, 0, 0, 0, 0, 0) != 0) return 5;
  for (int i = 5; i < count; i++) if (sscanf(words[i], "c%c%u=%lf", &kind, &r, &v) == 3 && set(c, kind, r, v) != 0) return 6;
  for (int i = 5; i < count; i++) sscanf(words[i], "s%ld", &back);
  if (((int (*)(component))function("fmi2EnterInitializationMode"))(c) != 0 || ((int (*)(component))function("fmi2ExitInitializationMode"))(c) != 0) return 7;
  void *kept = 0;
  for (long k = 0; k <= steps; k++) {
    for (int i = 5; i < count; i++) if (sscanf(words[i], "k%ld%c%u=%lf", &at, &kind, &r, &v) == 4 && at == k && set(c, kind, r, v) != 0) return 8;
    if (k == back && !kept) {
      if (((int (*)(component, void **))function("fmi2GetFMUstate"))(c, &kept) != 0) return 9;
      for (int i = 0; i < 3; i++) ((int (*)(component, double, double, int))function("fmi2DoStep"))(c, (double)(k + i) * step, step, 0);
      if (((int (*)(component, void *))function("fmi2SetFMUstate"))(c, kept) != 0) return 9;
      ((int (*)(component, void **))function("fmi2FreeFMUstate"))(c, &kept);
      if (kept) return 9;
      back = -1;
    }
    for (int i = 5; i < count; i++) if (sscanf(words[i], "g%c%u", &kind, &r) == 2) printf("%.17g ", get(c, kind, r));
    putchar('\n');
    if (k < steps && ((int (*)(component, double, double, int))function("fmi2DoStep"))(c, (double)k * step, step, 1) != 0) return 10;
  }
  if (((int (*)(component))function("fmi2Terminate"))(c) != 0) return 11;
  ((void (*)(component))function("fmi2FreeInstance"))(c);
  return 0;
}
