import { tokenOf } from './described';
import type { CosimulationUnit } from './unit';

/** The functions of FMI 2.0 for co-simulation, after its chapters 2.1 and 4.2, over the engine. Types are declared here, as the standard gives them. */
export function functions2(unit: CosimulationUnit): string {
  return `/* Made by Ovrand. Do not edit: change the model. */
#include "engine.c"
#define FMI2_EXPORT __attribute__((visibility("default")))
typedef void *fmi2Component;
typedef void *fmi2ComponentEnvironment;
typedef void *fmi2FMUstate;
typedef unsigned int fmi2ValueReference;
typedef double fmi2Real;
typedef int fmi2Integer;
typedef int fmi2Boolean;
typedef char fmi2Char;
typedef const fmi2Char *fmi2String;
typedef char fmi2Byte;
typedef enum { fmi2OK, fmi2Warning, fmi2Discard, fmi2Error, fmi2Fatal, fmi2Pending } fmi2Status;
typedef enum { fmi2ModelExchange, fmi2CoSimulation } fmi2Type;
typedef enum { fmi2DoStepStatus, fmi2PendingStatus, fmi2LastSuccessfulTime, fmi2Terminated } fmi2StatusKind;
typedef struct {
  void (*logger)(fmi2ComponentEnvironment, fmi2String, fmi2Status, fmi2String, fmi2String, ...);
  void *(*allocateMemory)(size_t, size_t);
  void (*freeMemory)(void *);
  void (*stepFinished)(fmi2ComponentEnvironment, fmi2Status);
  fmi2ComponentEnvironment componentEnvironment;
} fmi2CallbackFunctions;

typedef struct { ovr_state state; const fmi2CallbackFunctions *callbacks; char name[256]; int isRunning; } ovr_instance;

static fmi2Status ovr_said(ovr_instance *c,fmi2Status status,const char *what){
if(c->callbacks&&c->callbacks->logger)c->callbacks->logger(c->callbacks->componentEnvironment,c->name,status,"logStatusError","%s",what);
return status;}

FMI2_EXPORT const char *fmi2GetTypesPlatform(void){return "default";}
FMI2_EXPORT const char *fmi2GetVersion(void){return "2.0";}
FMI2_EXPORT fmi2Status fmi2SetDebugLogging(fmi2Component c,fmi2Boolean on,size_t n,const fmi2String categories[]){(void)c;(void)on;(void)n;(void)categories;return fmi2OK;}

FMI2_EXPORT fmi2Component fmi2Instantiate(fmi2String name,fmi2Type type,fmi2String guid,fmi2String resources,const fmi2CallbackFunctions *callbacks,fmi2Boolean visible,fmi2Boolean logging){
(void)resources;(void)visible;(void)logging;
if(type!=fmi2CoSimulation||!guid||strcmp(guid,"${tokenOf(unit)}")!=0){
if(callbacks&&callbacks->logger)callbacks->logger(callbacks->componentEnvironment,name?name:"",fmi2Error,"logStatusError","%s",type!=fmi2CoSimulation?"only co-simulation is possible":"the description is of another unit");
return 0;}
ovr_instance *c=calloc(1,sizeof *c);
if(!c)return 0;
c->callbacks=callbacks;
if(name){strncpy(c->name,name,sizeof c->name-1);}
ovr_reset(&c->state);
return c;}
FMI2_EXPORT void fmi2FreeInstance(fmi2Component c){free(c);}

FMI2_EXPORT fmi2Status fmi2SetupExperiment(fmi2Component c,fmi2Boolean hasTolerance,fmi2Real tolerance,fmi2Real start,fmi2Boolean hasStop,fmi2Real stop){
(void)hasTolerance;(void)tolerance;(void)hasStop;(void)stop;((ovr_instance*)c)->state.start=start;return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2EnterInitializationMode(fmi2Component c){(void)c;return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2ExitInitializationMode(fmi2Component component){
ovr_instance *c=component;ovr_initialize(&c->state);c->isRunning=1;
return c->state.s.fault?ovr_said(c,fmi2Error,ovr_fault_words(&c->state)):fmi2OK;}
FMI2_EXPORT fmi2Status fmi2Terminate(fmi2Component c){((ovr_instance*)c)->isRunning=0;return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2Reset(fmi2Component component){ovr_instance *c=component;ovr_reset(&c->state);c->isRunning=0;return fmi2OK;}

${['Real', 'Integer', 'Boolean'].map(access).join('\n')}
FMI2_EXPORT fmi2Status fmi2GetString(fmi2Component c,const fmi2ValueReference r[],size_t n,fmi2String v[]){(void)r;(void)v;return n==0?fmi2OK:ovr_said(c,fmi2Error,"there are no strings");}
FMI2_EXPORT fmi2Status fmi2SetString(fmi2Component c,const fmi2ValueReference r[],size_t n,const fmi2String v[]){(void)r;(void)v;return n==0?fmi2OK:ovr_said(c,fmi2Error,"there are no strings");}

FMI2_EXPORT fmi2Status fmi2DoStep(fmi2Component component,fmi2Real at,fmi2Real size,fmi2Boolean noSetBefore){
ovr_instance *c=component;(void)noSetBefore;
const long long from=llround((at-c->state.start)*1e9);
if(!c->isRunning)return ovr_said(c,fmi2Error,"the unit is not initialized");
if(!(size>=0.0))return ovr_said(c,fmi2Error,"the step is negative");
if(llabs(from-c->state.now)>1)return ovr_said(c,fmi2Error,"the step does not begin where the last one ended");
const long long until=llround((at-c->state.start+size)*1e9);
return ovr_advance(&c->state,until)?fmi2OK:ovr_said(c,fmi2Error,ovr_fault_words(&c->state));}
FMI2_EXPORT fmi2Status fmi2CancelStep(fmi2Component c){return ovr_said(c,fmi2Error,"no step is under way");}

FMI2_EXPORT fmi2Status fmi2GetStatus(fmi2Component c,const fmi2StatusKind kind,fmi2Status *v){(void)c;(void)kind;(void)v;return fmi2Discard;}
FMI2_EXPORT fmi2Status fmi2GetRealStatus(fmi2Component component,const fmi2StatusKind kind,fmi2Real *v){ovr_instance *c=component;if(kind!=fmi2LastSuccessfulTime)return fmi2Discard;*v=c->state.start+ovr_seconds(&c->state);return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2GetIntegerStatus(fmi2Component c,const fmi2StatusKind kind,fmi2Integer *v){(void)c;(void)kind;(void)v;return fmi2Discard;}
FMI2_EXPORT fmi2Status fmi2GetBooleanStatus(fmi2Component component,const fmi2StatusKind kind,fmi2Boolean *v){ovr_instance *c=component;if(kind!=fmi2Terminated)return fmi2Discard;*v=c->state.s.fault!=0;return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2GetStringStatus(fmi2Component c,const fmi2StatusKind kind,fmi2String *v){(void)c;(void)kind;(void)v;return fmi2Discard;}

FMI2_EXPORT fmi2Status fmi2GetFMUstate(fmi2Component component,fmi2FMUstate *state){
ovr_instance *c=component;if(!*state)*state=malloc(sizeof c->state);if(!*state)return ovr_said(c,fmi2Error,"there is no memory for the state");memcpy(*state,&c->state,sizeof c->state);return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2SetFMUstate(fmi2Component component,fmi2FMUstate state){ovr_instance *c=component;if(!state)return ovr_said(c,fmi2Error,"there is no state");memcpy(&c->state,state,sizeof c->state);return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2FreeFMUstate(fmi2Component c,fmi2FMUstate *state){(void)c;if(state){free(*state);*state=0;}return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2SerializedFMUstateSize(fmi2Component c,fmi2FMUstate state,size_t *size){(void)state;(void)size;return ovr_said(c,fmi2Error,"states are not serialized");}
FMI2_EXPORT fmi2Status fmi2SerializeFMUstate(fmi2Component c,fmi2FMUstate state,fmi2Byte bytes[],size_t size){(void)state;(void)bytes;(void)size;return ovr_said(c,fmi2Error,"states are not serialized");}
FMI2_EXPORT fmi2Status fmi2DeSerializeFMUstate(fmi2Component c,const fmi2Byte bytes[],size_t size,fmi2FMUstate *state){(void)state;(void)bytes;(void)size;return ovr_said(c,fmi2Error,"states are not serialized");}
FMI2_EXPORT fmi2Status fmi2GetDirectionalDerivative(fmi2Component c,const fmi2ValueReference u[],size_t nu,const fmi2ValueReference k[],size_t nk,const fmi2Real dk[],fmi2Real du[]){(void)u;(void)nu;(void)k;(void)nk;(void)dk;(void)du;return ovr_said(c,fmi2Error,"there are no directional derivatives");}
FMI2_EXPORT fmi2Status fmi2SetRealInputDerivatives(fmi2Component c,const fmi2ValueReference r[],size_t n,const fmi2Integer order[],const fmi2Real v[]){(void)r;(void)order;(void)v;return n==0?fmi2OK:ovr_said(c,fmi2Error,"inputs have no derivatives");}
FMI2_EXPORT fmi2Status fmi2GetRealOutputDerivatives(fmi2Component c,const fmi2ValueReference r[],size_t n,const fmi2Integer order[],fmi2Real v[]){(void)r;(void)order;(void)v;return n==0?fmi2OK:ovr_said(c,fmi2Error,"outputs have no derivatives");}
`;
}

/** Reading and setting the variables of one type. */
function access(type: string): string {
  const value = type === 'Boolean' ? 'ovr_get(&c->state,r[i])!=0.0' : `(fmi2${type})ovr_get(&c->state,r[i])`;
  const given = type === 'Boolean' ? '(v[i]?1.0:0.0)' : '(double)v[i]';
  const kind = `OVR_${type.toUpperCase()}`;
  return `FMI2_EXPORT fmi2Status fmi2Get${type}(fmi2Component component,const fmi2ValueReference r[],size_t n,fmi2${type} v[]){ovr_instance *c=component;
for(size_t i=0;i<n;i++){if(ovr_kind_of(r[i])!=${kind})return ovr_said(c,fmi2Error,"there is no ${type} of that reference");v[i]=${value};}
return fmi2OK;}
FMI2_EXPORT fmi2Status fmi2Set${type}(fmi2Component component,const fmi2ValueReference r[],size_t n,const fmi2${type} v[]){ovr_instance *c=component;
for(size_t i=0;i<n;i++)if(ovr_kind_of(r[i])!=${kind}||!ovr_set(&c->state,r[i],${given}))return ovr_said(c,fmi2Error,"there is no input or parameter ${type} of that reference, or it does not take that value");
return fmi2OK;}`;
}
