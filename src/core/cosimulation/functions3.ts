import { tokenOf } from './described';
import type { CosimulationUnit } from './unit';

const numbers = {
  Float32: 'float',
  Float64: 'double',
  Int8: 'int8_t',
  UInt8: 'uint8_t',
  Int16: 'int16_t',
  UInt16: 'uint16_t',
  Int32: 'int32_t',
  UInt32: 'uint32_t',
  Int64: 'int64_t',
  UInt64: 'uint64_t',
  Boolean: 'bool',
} as const;

/** Functions of the standard that a co-simulation unit has to have and has no use for: their parameters after the instance. */
const refused: readonly (readonly [name: string, parameters: string])[] = [
  ['EnterEventMode', ''],
  ['GetString', 'const fmi3ValueReference r[],size_t n,fmi3String v[],size_t nv'],
  ['SetString', 'const fmi3ValueReference r[],size_t n,const fmi3String v[],size_t nv'],
  ['GetBinary', 'const fmi3ValueReference r[],size_t n,size_t sizes[],const uint8_t *v[],size_t nv'],
  ['SetBinary', 'const fmi3ValueReference r[],size_t n,const size_t sizes[],const uint8_t *const v[],size_t nv'],
  ['GetClock', 'const fmi3ValueReference r[],size_t n,bool v[]'],
  ['SetClock', 'const fmi3ValueReference r[],size_t n,const bool v[]'],
  ['GetNumberOfVariableDependencies', 'fmi3ValueReference r,size_t *n'],
  ['GetVariableDependencies', 'fmi3ValueReference r,size_t a[],fmi3ValueReference b[],size_t d[],int k[],size_t n'],
  ['SerializedFMUStateSize', 'fmi3FMUState s,size_t *n'],
  ['SerializeFMUState', 'fmi3FMUState s,uint8_t b[],size_t n'],
  ['DeserializeFMUState', 'const uint8_t b[],size_t n,fmi3FMUState *s'],
  [
    'GetDirectionalDerivative',
    'const fmi3ValueReference u[],size_t nu,const fmi3ValueReference k[],size_t nk,const double s[],size_t ns,double v[],size_t nv',
  ],
  [
    'GetAdjointDerivative',
    'const fmi3ValueReference u[],size_t nu,const fmi3ValueReference k[],size_t nk,const double s[],size_t ns,double v[],size_t nv',
  ],
  ['EnterConfigurationMode', ''],
  ['ExitConfigurationMode', ''],
  ['GetIntervalDecimal', 'const fmi3ValueReference r[],size_t n,double v[],int q[]'],
  ['GetIntervalFraction', 'const fmi3ValueReference r[],size_t n,uint64_t c[],uint64_t e[],int q[]'],
  ['GetShiftDecimal', 'const fmi3ValueReference r[],size_t n,double v[]'],
  ['GetShiftFraction', 'const fmi3ValueReference r[],size_t n,uint64_t c[],uint64_t e[]'],
  ['SetIntervalDecimal', 'const fmi3ValueReference r[],size_t n,const double v[]'],
  ['SetIntervalFraction', 'const fmi3ValueReference r[],size_t n,const uint64_t c[],const uint64_t e[]'],
  ['SetShiftDecimal', 'const fmi3ValueReference r[],size_t n,const double v[]'],
  ['SetShiftFraction', 'const fmi3ValueReference r[],size_t n,const uint64_t c[],const uint64_t e[]'],
  ['EvaluateDiscreteStates', ''],
  ['UpdateDiscreteStates', 'bool *a,bool *b,bool *d,bool *e,bool *f,double *t'],
  ['EnterContinuousTimeMode', ''],
  ['CompletedIntegratorStep', 'bool k,bool *e,bool *t'],
  ['SetTime', 'double t'],
  ['SetContinuousStates', 'const double x[],size_t n'],
  ['GetContinuousStateDerivatives', 'double x[],size_t n'],
  ['GetEventIndicators', 'double x[],size_t n'],
  ['GetContinuousStates', 'double x[],size_t n'],
  ['GetNominalsOfContinuousStates', 'double x[],size_t n'],
  ['GetNumberOfEventIndicators', 'size_t *n'],
  ['GetNumberOfContinuousStates', 'size_t *n'],
  ['EnterStepMode', ''],
  ['GetOutputDerivatives', 'const fmi3ValueReference r[],size_t n,const int32_t o[],double v[],size_t nv'],
  ['ActivateModelPartition', 'fmi3ValueReference r,double t'],
];

/** The functions of FMI 3.0 for co-simulation, after its chapters 2.2, 2.3 and 4.2, over the engine. Types are declared here, as the standard gives them. */
export function functions3(unit: CosimulationUnit): string {
  return `/* Made by Ovrand. Do not edit: change the model. */
#include "engine.c"
#define FMI3_EXPORT __attribute__((visibility("default")))
typedef void *fmi3Instance;
typedef void *fmi3InstanceEnvironment;
typedef void *fmi3FMUState;
typedef uint32_t fmi3ValueReference;
typedef const char *fmi3String;
typedef enum { fmi3OK, fmi3Warning, fmi3Discard, fmi3Error, fmi3Fatal } fmi3Status;
typedef void (*fmi3LogMessageCallback)(fmi3InstanceEnvironment, fmi3Status, fmi3String, fmi3String);
typedef void (*fmi3IntermediateUpdateCallback)(fmi3InstanceEnvironment, double, bool, bool, bool, bool, bool *, double *);
typedef void (*fmi3ClockUpdateCallback)(fmi3InstanceEnvironment);
typedef void (*fmi3LockPreemptionCallback)(void);

typedef struct { ovr_state state; fmi3InstanceEnvironment environment; fmi3LogMessageCallback log; int isRunning; } ovr_instance;

static fmi3Status ovr_said(ovr_instance *c,fmi3Status status,const char *what){if(c->log)c->log(c->environment,status,"logStatusError",what);return status;}

FMI3_EXPORT const char *fmi3GetVersion(void){return "3.0";}
FMI3_EXPORT fmi3Status fmi3SetDebugLogging(fmi3Instance c,bool on,size_t n,const fmi3String categories[]){(void)c;(void)on;(void)n;(void)categories;return fmi3OK;}

FMI3_EXPORT fmi3Instance fmi3InstantiateCoSimulation(fmi3String name,fmi3String token,fmi3String resources,bool visible,bool logging,bool eventMode,bool earlyReturn,const fmi3ValueReference intermediate[],size_t count,fmi3InstanceEnvironment environment,fmi3LogMessageCallback log,fmi3IntermediateUpdateCallback update){
(void)name;(void)resources;(void)visible;(void)logging;(void)earlyReturn;(void)intermediate;(void)count;(void)update;
if(eventMode||!token||strcmp(token,"${tokenOf(unit)}")!=0){if(log)log(environment,fmi3Error,"logStatusError",eventMode?"there is no event mode":"the description is of another unit");return 0;}
ovr_instance *c=calloc(1,sizeof *c);
if(!c)return 0;
c->environment=environment;c->log=log;ovr_reset(&c->state);
return c;}
FMI3_EXPORT fmi3Instance fmi3InstantiateModelExchange(fmi3String name,fmi3String token,fmi3String resources,bool visible,bool logging,fmi3InstanceEnvironment environment,fmi3LogMessageCallback log){
(void)name;(void)token;(void)resources;(void)visible;(void)logging;if(log)log(environment,fmi3Error,"logStatusError","only co-simulation is possible");return 0;}
FMI3_EXPORT fmi3Instance fmi3InstantiateScheduledExecution(fmi3String name,fmi3String token,fmi3String resources,bool visible,bool logging,fmi3InstanceEnvironment environment,fmi3LogMessageCallback log,fmi3ClockUpdateCallback clock,fmi3LockPreemptionCallback lock,fmi3LockPreemptionCallback unlock){
(void)name;(void)token;(void)resources;(void)visible;(void)logging;(void)clock;(void)lock;(void)unlock;if(log)log(environment,fmi3Error,"logStatusError","only co-simulation is possible");return 0;}
FMI3_EXPORT void fmi3FreeInstance(fmi3Instance c){free(c);}

FMI3_EXPORT fmi3Status fmi3EnterInitializationMode(fmi3Instance c,bool hasTolerance,double tolerance,double start,bool hasStop,double stop){
(void)hasTolerance;(void)tolerance;(void)hasStop;(void)stop;((ovr_instance*)c)->state.start=start;return fmi3OK;}
FMI3_EXPORT fmi3Status fmi3ExitInitializationMode(fmi3Instance instance){
ovr_instance *c=instance;ovr_initialize(&c->state);c->isRunning=1;
return c->state.s.fault?ovr_said(c,fmi3Error,ovr_fault_words(&c->state)):fmi3OK;}
FMI3_EXPORT fmi3Status fmi3Terminate(fmi3Instance c){((ovr_instance*)c)->isRunning=0;return fmi3OK;}
FMI3_EXPORT fmi3Status fmi3Reset(fmi3Instance instance){ovr_instance *c=instance;ovr_reset(&c->state);c->isRunning=0;return fmi3OK;}

${Object.entries(numbers).map(access).join('\n')}

FMI3_EXPORT fmi3Status fmi3DoStep(fmi3Instance instance,double at,double size,bool noSetBefore,bool *eventNeeded,bool *terminate,bool *early,double *lastTime){
ovr_instance *c=instance;(void)noSetBefore;
*eventNeeded=false;*terminate=false;*early=false;*lastTime=c->state.start+ovr_seconds(&c->state);
const long long from=llround((at-c->state.start)*1e9);
if(!c->isRunning)return ovr_said(c,fmi3Error,"the unit is not initialized");
if(!(size>=0.0))return ovr_said(c,fmi3Error,"the step is negative");
if(llabs(from-c->state.now)>1)return ovr_said(c,fmi3Error,"the step does not begin where the last one ended");
const long long until=llround((at-c->state.start+size)*1e9);
if(!ovr_advance(&c->state,until)){*terminate=true;return ovr_said(c,fmi3Error,ovr_fault_words(&c->state));}
*lastTime=c->state.start+ovr_seconds(&c->state);
return fmi3OK;}

FMI3_EXPORT fmi3Status fmi3GetFMUState(fmi3Instance instance,fmi3FMUState *state){
ovr_instance *c=instance;if(!*state)*state=malloc(sizeof c->state);if(!*state)return ovr_said(c,fmi3Error,"there is no memory for the state");memcpy(*state,&c->state,sizeof c->state);return fmi3OK;}
FMI3_EXPORT fmi3Status fmi3SetFMUState(fmi3Instance instance,fmi3FMUState state){ovr_instance *c=instance;if(!state)return ovr_said(c,fmi3Error,"there is no state");memcpy(&c->state,state,sizeof c->state);return fmi3OK;}
FMI3_EXPORT fmi3Status fmi3FreeFMUState(fmi3Instance c,fmi3FMUState *state){(void)c;if(state){free(*state);*state=0;}return fmi3OK;}
${refused.map(refusal).join('\n')}
`;
}

/** Reading and setting the variables of one type. A value of the type the C has no room for cannot be. */
function access([kind, type]: readonly [string, string]): string {
  return `FMI3_EXPORT fmi3Status fmi3Get${kind}(fmi3Instance instance,const fmi3ValueReference r[],size_t n,${type} v[],size_t nv){ovr_instance *c=instance;
if(nv!=n)return ovr_said(c,fmi3Error,"there are no arrays");
for(size_t i=0;i<n;i++){if(strcmp(ovr_type_of(r[i]),"${kind}")!=0)return ovr_said(c,fmi3Error,"there is no ${kind} of that reference");v[i]=(${type})ovr_get(&c->state,r[i]);}
return fmi3OK;}
FMI3_EXPORT fmi3Status fmi3Set${kind}(fmi3Instance instance,const fmi3ValueReference r[],size_t n,const ${type} v[],size_t nv){ovr_instance *c=instance;
if(nv!=n)return ovr_said(c,fmi3Error,"there are no arrays");
for(size_t i=0;i<n;i++)if(strcmp(ovr_type_of(r[i]),"${kind}")!=0||!ovr_set(&c->state,r[i],(double)v[i]))return ovr_said(c,fmi3Error,"there is no input or parameter ${kind} of that reference, or it does not take that value");
return fmi3OK;}`;
}

function refusal([name, parameters]: readonly [string, string]): string {
  const names = [...parameters.matchAll(/(\w+)(?:\[\])?(?=,|$)/g)].map(([, one]) => `(void)${one};`).join('');
  return `FMI3_EXPORT fmi3Status fmi3${name}(fmi3Instance instance${parameters === '' ? '' : `,${parameters}`}){${names}return ovr_said(instance,fmi3Error,"this unit has no ${name}");}`;
}
