/* An importer of co-simulation units, written from the text of FMI 3.0.2 (chapters 2.2, 2.3, 4.2): loads a library, calls it as its state machine allows, prints what comes out. */
#include <dlfcn.h>
#include <stdbool.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
typedef void *instance;
static const char *needed[] = {"fmi3GetVersion", "fmi3SetDebugLogging", "fmi3InstantiateModelExchange", "fmi3InstantiateCoSimulation", "fmi3InstantiateScheduledExecution", "fmi3FreeInstance", "fmi3EnterInitializationMode", "fmi3ExitInitializationMode", "fmi3EnterEventMode", "fmi3Terminate", "fmi3Reset", "fmi3GetFloat32", "fmi3GetFloat64", "fmi3GetInt8", "fmi3GetUInt8", "fmi3GetInt16", "fmi3GetUInt16", "fmi3GetInt32", "fmi3GetUInt32", "fmi3GetInt64", "fmi3GetUInt64", "fmi3GetBoolean", "fmi3GetString", "fmi3GetBinary", "fmi3GetClock", "fmi3SetFloat32", "fmi3SetFloat64", "fmi3SetInt8", "fmi3SetUInt8", "fmi3SetInt16", "fmi3SetUInt16", "fmi3SetInt32", "fmi3SetUInt32", "fmi3SetInt64", "fmi3SetUInt64", "fmi3SetBoolean", "fmi3SetString", "fmi3SetBinary", "fmi3SetClock", "fmi3GetNumberOfVariableDependencies", "fmi3GetVariableDependencies", "fmi3GetFMUState", "fmi3SetFMUState", "fmi3FreeFMUState", "fmi3SerializedFMUStateSize", "fmi3SerializeFMUState", "fmi3DeserializeFMUState", "fmi3GetDirectionalDerivative", "fmi3GetAdjointDerivative", "fmi3EnterConfigurationMode", "fmi3ExitConfigurationMode", "fmi3GetIntervalDecimal", "fmi3GetIntervalFraction", "fmi3GetShiftDecimal", "fmi3GetShiftFraction", "fmi3SetIntervalDecimal", "fmi3SetIntervalFraction", "fmi3SetShiftDecimal", "fmi3SetShiftFraction", "fmi3EvaluateDiscreteStates", "fmi3UpdateDiscreteStates", "fmi3EnterContinuousTimeMode", "fmi3CompletedIntegratorStep", "fmi3SetTime", "fmi3SetContinuousStates", "fmi3GetContinuousStateDerivatives", "fmi3GetEventIndicators", "fmi3GetContinuousStates", "fmi3GetNominalsOfContinuousStates", "fmi3GetNumberOfEventIndicators", "fmi3GetNumberOfContinuousStates", "fmi3EnterStepMode", "fmi3GetOutputDerivatives", "fmi3DoStep", "fmi3ActivateModelPartition"};
static void *library;
static void *function(const char *name) {
  void *found = dlsym(library, name);
  if (!found) { fprintf(stderr, "no %s\n", name); exit(2); }
  return found;
}
static void logged(void *e, int status, const char *category, const char *message) { (void)e; fprintf(stderr, "%d %s %s\n", status, category, message); }
static int set(instance c, char kind, unsigned r, double v) {
  bool truth = v != 0;
  int16_t whole = (int16_t)v;
  if (kind == 'r') return ((int (*)(instance, const uint32_t *, size_t, const double *, size_t))function("fmi3SetFloat64"))(c, &r, 1, &v, 1);
  if (kind == 'i') return ((int (*)(instance, const uint32_t *, size_t, const int16_t *, size_t))function("fmi3SetInt16"))(c, &r, 1, &whole, 1);
  return ((int (*)(instance, const uint32_t *, size_t, const bool *, size_t))function("fmi3SetBoolean"))(c, &r, 1, &truth, 1);
}
static double get(instance c, char kind, unsigned r) {
  double v = 0;
  bool truth = false;
  int16_t whole = 0;
  int status = kind == 'r'   ? ((int (*)(instance, const uint32_t *, size_t, double *, size_t))function("fmi3GetFloat64"))(c, &r, 1, &v, 1)
               : kind == 'i' ? ((int (*)(instance, const uint32_t *, size_t, int16_t *, size_t))function("fmi3GetInt16"))(c, &r, 1, &whole, 1)
                             : ((int (*)(instance, const uint32_t *, size_t, bool *, size_t))function("fmi3GetBoolean"))(c, &r, 1, &truth, 1);
  if (status != 0) { fprintf(stderr, "get %c %u: %d\n", kind, r, status); exit(3); }
  return kind == 'r' ? v : kind == 'i' ? whole : truth;
}
/* arguments as of importer2.c */
int main(int count, char **words) {
  library = dlopen(words[1], RTLD_NOW | RTLD_LOCAL);
  if (!library) { fprintf(stderr, "%s\n", dlerror()); return 2; }
  for (size_t i = 0; i < sizeof needed / sizeof *needed; i++) function(needed[i]);
  if (strcmp(((const char *(*)(void))function("fmi3GetVersion"))(), "3.0") != 0) return 2;
  instance c = ((instance(*)(const char *, const char *, const char *, bool, bool, bool, bool, const uint32_t *, size_t, void *, void (*)(void *, int, const char *, const char *), void *))function("fmi3InstantiateCoSimulation"))("one", words[2], "/tmp", false, false, false, false, 0, 0, 0, logged, 0);
  if (!c) return 4;
  const long steps = strtol(words[3], 0, 10);
  const double step = strtod(words[4], 0);
  char kind;
  unsigned r;
  long at, back = -1;
  double v;
  for (int i = 5; i < count; i++) if (sscanf(words[i], "c%c%u=%lf", &kind, &r, &v) == 3 && set(c, kind, r, v) != 0) return 6;
  for (int i = 5; i < count; i++) sscanf(words[i], "s%ld", &back);
  if (((int (*)(instance, bool, double, double, bool, double))function("fmi3EnterInitializationMode"))(c, false, 0, 0, false, 0) != 0) return 7;
  if (((int (*)(instance))function("fmi3ExitInitializationMode"))(c) != 0) return 7;
  bool events, over, early;
  double last;
  int (*go)(instance, double, double, bool, bool *, bool *, bool *, double *) = (int (*)(instance, double, double, bool, bool *, bool *, bool *, double *))function("fmi3DoStep");
  void *kept = 0;
  for (long k = 0; k <= steps; k++) {
    for (int i = 5; i < count; i++) if (sscanf(words[i], "k%ld%c%u=%lf", &at, &kind, &r, &v) == 4 && at == k && set(c, kind, r, v) != 0) return 8;
    if (k == back && !kept) {
      if (((int (*)(instance, void **))function("fmi3GetFMUState"))(c, &kept) != 0) return 9;
      for (int i = 0; i < 3; i++) go(c, (double)(k + i) * step, step, false, &events, &over, &early, &last);
      if (((int (*)(instance, void *))function("fmi3SetFMUState"))(c, kept) != 0) return 9;
      ((int (*)(instance, void **))function("fmi3FreeFMUState"))(c, &kept);
      if (kept) return 9;
      back = -1;
    }
    for (int i = 5; i < count; i++) if (sscanf(words[i], "g%c%u", &kind, &r) == 2) printf("%.17g ", get(c, kind, r));
    putchar('\n');
    if (k < steps && (go(c, (double)k * step, step, true, &events, &over, &early, &last) != 0 || early || over || events)) return 10;
  }
  if (((int (*)(instance))function("fmi3Terminate"))(c) != 0) return 11;
  ((void (*)(instance))function("fmi3FreeInstance"))(c);
  return 0;
}
