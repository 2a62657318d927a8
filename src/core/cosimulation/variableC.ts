import { type CUnit, library } from '@/core/emit/c';
import type { Plan, SolverMethod } from '@/core/plan';
import { bogackiShampine, dormandPrince, type Pair, stepRule } from '@/core/simulate';

/** The explicit pairs of variable step, which a unit can bring along. */
export const pairs: Readonly<Partial<Record<SolverMethod, Pair>>> = { 'dormand-prince-54': dormandPrince, 'bogacki-shampine-32': bogackiShampine };

/** The functions of the numeric library that the C below calls. */
export const variableCalls: CUnit['calls'] = ['**'];

/**
 * C of a method of variable step: the arithmetic of core/simulate/solvers/explicitPair and its control of the step, in the same order, so that between the same instants it takes the same steps.
 * `ovr_integrate` goes from one instant (s) to another; what the control keeps is in the state.
 */
export function variableC(plan: Plan, pair: Pair, c: CUnit): string {
  const { states, solver } = plan;
  const rule = stepRule(pair);
  const of = (pick: 'relative' | 'absolute', usual: number): string =>
    states.map((_, index) => solver.ofStates?.find(({ state }) => state === index)?.[pick] ?? usual).join(',');
  const stages = pair.c.length;
  const row = (values: readonly number[]): string => `{${Array.from({ length: stages }, (_, index) => values[index] ?? 0).join(',')}}`;
  const pow = library('**');
  return `
enum { OVR_STATES = ${states.length}, OVR_STAGES = ${stages} };
static const double ovr_c[OVR_STAGES]=${row(pair.c)},ovr_a[OVR_STAGES][OVR_STAGES]={${pair.a.map(row).join(',')}};
static const double ovr_e[OVR_STAGES]=${row(pair.b.map((b, index) => b - (pair.lower[index] ?? 0)))};
static const double ovr_relative[OVR_STATES]={${of('relative', solver.relativeTolerance)}},ovr_absolute[OVR_STATES]={${of('absolute', solver.absoluteTolerance)}};
double ${pow}(double x,double y);

static void ovr_keep(ovr_state *u,const double *x){${states.map(({ slot }, index) => c.store(slot, `x[${index}]`, 'u->s.')).join('')}}

/* Slopes at other values of the states; 0 where these leave the domain of a formula. */
static int ovr_slopes(ovr_state *u,double t,const double *x,double *k){ovr_keep(u,x);plan_slopes(&u->s,t,k);return u->s.fault==0;}

static double ovr_norm(const double *v,const double *x){double total=0;for(int i=0;i<OVR_STATES;i++){const double one=v[i]/(ovr_absolute[i]+ovr_relative[i]*fabs(x[i]));total+=one*one;}return sqrt(total/OVR_STATES);}

/* Starting step after Hairer, Norsett, Wanner, Solving Ordinary Differential Equations I, section II.4. */
static double ovr_first(ovr_state *u,double t,double longest,const double *x,const double *slope){
double y[OVR_STATES],later[OVR_STATES];
const double d0=ovr_norm(x,x),d1=ovr_norm(slope,x);
const double small=d0<1e-5||d1<1e-5?1e-6:0.01*d0/d1,h0=longest<small?longest:small;
for(int i=0;i<OVR_STATES;i++)y[i]=x[i]+h0*slope[i];
if(!ovr_slopes(u,t+h0,y,later)){u->s.fault=0;return h0;}
for(int i=0;i<OVR_STATES;i++)later[i]=later[i]-slope[i];
const double d2=ovr_norm(later,x)/h0,steepest=d1>d2?d1:d2;
const double h1=steepest<=1e-15?(h0*1e-3>1e-6?h0*1e-3:1e-6):${pow}(0.01/steepest,${rule.exponent});
const double least=h1<100*h0?h1:100*h0;
return longest<least?longest:least;}

static int ovr_integrate(ovr_state *u,double from,double until){
double x[OVR_STATES],y[OVR_STATES],k[OVR_STAGES][OVR_STATES];
${states.map(({ slot }, index) => `x[${index}]=${c.slot(slot, 'u->s.')};`).join('')}
double t=from;
int rejected=0;
if(!ovr_slopes(u,t,x,k[0]))return 0;
if(u->step==0.0)u->step=ovr_first(u,t,until-from,x,k[0]);
while(t<until){
const double size=fabs(t)>1e-3?fabs(t):1e-3,smallest=10*2.220446049250313e-16*size;
const double wanted=u->step<${solver.stepNs / 1e9}?u->step:${solver.stepNs / 1e9};
const int last=t+wanted*1.01>=until;
const double h=last?until-t:t+2*wanted>until?(until-t)/2:wanted,end=last?until:t+h;
double error=0;
int inside=1;
for(int stage=1;stage<OVR_STAGES&&inside;stage++){
for(int i=0;i<OVR_STATES;i++){double sum=0;for(int j=0;j<stage;j++)sum+=ovr_a[stage][j]*k[j][i];y[i]=x[i]+h*sum;}
inside=ovr_slopes(u,t+ovr_c[stage]*h,y,k[stage]);}
if(!inside&&h<=smallest){ovr_keep(u,x);return 0;}
if(inside){
for(int i=0;i<OVR_STATES;i++){double e=0;for(int stage=0;stage<OVR_STAGES;stage++)e+=ovr_e[stage]*k[stage][i];
const double most=fabs(x[i])>fabs(y[i])?fabs(x[i]):fabs(y[i]),one=h*e/(ovr_absolute[i]+ovr_relative[i]*most);error+=one*one;}
error=sqrt(error/OVR_STATES);}
else{u->s.fault=0;error=NAN;}
const double bounded=error>1e-10?error:1e-10,plain=${rule.safety}*${pow}(bounded,-(${rule.exponent}-0.75*${rule.beta}));
if(!(error<=1)){
if(h<=smallest){ovr_keep(u,x);u->s.fault=-2;return 0;}
u->step=h*(isfinite(error)?(plain>${rule.shrink}?plain:${rule.shrink}):0.25);
rejected=1;
continue;}
const double controlled=plain*${pow}(u->before,${rule.beta}),most=controlled>${rule.shrink}?controlled:${rule.shrink},growth=most<${rule.grow}?most:${rule.grow};
u->before=error>1e-4?error:1e-4;
const double next=h*(rejected&&growth>1?1:growth);
u->step=last&&h<wanted&&u->step>next?u->step:next;
rejected=0;
for(int i=0;i<OVR_STATES;i++){x[i]=y[i];k[0][i]=k[OVR_STAGES-1][i];}
t=end;}
ovr_keep(u,x);
return 1;}
`;
}
